import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { sessionCookie } from '@/app/api/respond';
import { pageContext } from '@/app/session';
import { ownSessions } from '@/server/account/people';
import { OwnAccount } from '@/ui/account/OwnAccount';

export const metadata: Metadata = { title: 'Own account' };

export default async function Page() {
  const ctx = await pageContext();
  const token = (await cookies()).get(sessionCookie)?.value ?? '';
  return <OwnAccount initial={await ownSessions(ctx, token)} />;
}
