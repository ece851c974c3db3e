import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { circuits } from '@/server/kit/circuits';
import { Circuits } from '@/ui/circuit/Circuits';

export const metadata: Metadata = { title: 'Circuits' };

export default async function Page() {
  const ctx = await pageContext();
  return <Circuits initial={await pageData(circuits(ctx.db))} />;
}
