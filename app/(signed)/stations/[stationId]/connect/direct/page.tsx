import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { consoleView } from '@/server/bus/consoleView';
import { DirectLine } from '@/ui/direct/DirectLine';

export const metadata: Metadata = { title: 'Direct line' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <DirectLine initial={await pageData(consoleView(ctx.db, stationId, ctx.now()))} />;
}
