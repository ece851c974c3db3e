import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { consoleView } from '@/server/bus/consoleView';
import { Console } from '@/ui/line/Console';

export const metadata: Metadata = { title: 'Talk on the line' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <Console initial={await pageData(consoleView(ctx.db, stationId, ctx.now()))} />;
}
