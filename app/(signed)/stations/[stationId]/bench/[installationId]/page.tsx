import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { benchView } from '@/server/bench/view';
import { SensorBench } from '@/ui/bench/SensorBench';

export const metadata: Metadata = { title: 'Bench' };

export default async function Page({
  params,
}: {
  params: Promise<{ stationId: string; installationId: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, installationId } = await params;
  return (
    <SensorBench initial={await pageData(benchView(ctx.db, stationId))} installationId={installationId} />
  );
}
