import { NextResponse } from 'next/server';
import { health } from '@/server/health';

export const dynamic = 'force-dynamic';

/** Whether the application and its database answer; for supervisors, without sign-in. */
export async function GET() {
  const state = await health();
  return NextResponse.json(state, {
    status: state.database === 'up' ? 200 : 503,
    headers: { 'cache-control': 'no-store' },
  });
}
