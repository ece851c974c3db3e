import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { instrumentPage } from '@/server/kit/instrumentPage';
import { Instrument } from '@/ui/kit/Instrument';

export const metadata: Metadata = { title: 'Instrument' };

export default async function Page({ params }: { params: Promise<{ instrumentId: string }> }) {
  const ctx = await pageContext();
  const { instrumentId } = await params;
  return <Instrument initial={await pageData(instrumentPage(ctx.db, instrumentId, ctx.now()))} />;
}
