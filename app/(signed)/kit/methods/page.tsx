import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { methods } from '@/server/kit/methods';
import { Methods } from '@/ui/kit/Methods';

export const metadata: Metadata = { title: 'Methods and persons' };

export default async function Page() {
  const ctx = await pageContext();
  return <Methods initial={await methods(ctx.db, ctx.now())} />;
}
