import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageContext, pageData } from '@/app/session';
import { benchView } from '@/server/bench/view';
import { TableSheet } from '@/ui/bench/TableSheet';

export const metadata: Metadata = { title: 'Table for the bag' };

export default async function Page({
  params,
}: {
  params: Promise<{ stationId: string; installationId: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, installationId } = await params;
  const view = await pageData(benchView(ctx.db, stationId));
  const sensor = view.sensors.find((s) => s.installationId === installationId);
  if (!sensor || sensor.channels.length === 0) notFound();
  return <TableSheet view={view} sensor={sensor} />;
}
