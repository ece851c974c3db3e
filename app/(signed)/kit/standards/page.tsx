import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { standards } from '@/server/kit/standards';
import { Standards } from '@/ui/kit/Standards';

export const metadata: Metadata = { title: 'Standards' };

export default async function Page() {
  const ctx = await pageContext();
  return <Standards initial={await standards(ctx.db, ctx.now())} />;
}
