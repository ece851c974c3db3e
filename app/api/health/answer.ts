import { NextResponse } from 'next/server';
import { health } from '@/server/process/health';

/** Whether the application and its database answer; for supervisors, without sign-in. */
export async function healthAnswer() {
  const state = await health();
  return NextResponse.json(state, {
    status: state.database === 'up' ? 200 : 503,
    headers: { 'cache-control': 'no-store' },
  });
}
