import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageContext, pageData } from '@/app/session';
import { benchView } from '@/server/bench/view';
import { MeasureSheet } from '@/ui/bench/MeasureSheet';

export const metadata: Metadata = { title: 'Plan for the bag' };

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ stationId: string; installationId: string }>;
  searchParams: Promise<{ meter?: string | string[]; sensor?: string | string[] }>;
}) {
  const ctx = await pageContext();
  const { stationId, installationId } = await params;
  const asked = await searchParams;
  const view = await pageData(benchView(ctx.db, stationId));
  const sensor = view.sensors.find((s) => s.installationId === installationId);
  const meter = view.meters.find((m) => m.id === asked.meter) ?? view.meters[0];
  if (!sensor || sensor.channels.length === 0 || !meter) notFound();
  return <MeasureSheet view={view} sensor={sensor} meter={meter} atSensor={asked.sensor === '1'} />;
}
