import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { benchView } from '@/server/bench/view';
import { BenchPage } from '@/ui/bench/BenchPage';

export const metadata: Metadata = { title: 'Bench' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <BenchPage initial={await pageData(benchView(ctx.db, stationId))} />;
}
