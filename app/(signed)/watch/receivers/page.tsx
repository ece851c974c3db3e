import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { pageContext } from '@/app/session';
import { may } from '@/contract/permission';
import { receivers } from '@/server/watch/receivers';
import { Receivers } from '@/ui/watch/Receivers';

export const metadata: Metadata = { title: 'Who is told' };

export default async function Page() {
  const ctx = await pageContext();
  if (!may(ctx.person.role, 'measure')) redirect('/watch');
  return <Receivers initial={await receivers(ctx.db)} />;
}
