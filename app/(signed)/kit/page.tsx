import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { kit } from '@/server/kit/kit';
import { Kit } from '@/ui/kit/Kit';

export const metadata: Metadata = { title: 'Kit' };

export default async function Page() {
  const ctx = await pageContext();
  return <Kit initial={await kit(ctx.db, ctx.now())} />;
}
