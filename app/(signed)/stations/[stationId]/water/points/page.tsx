import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { waterView } from '@/server/water/view';
import { PointsPage } from '@/ui/water/PointsPage';

export const metadata: Metadata = { title: 'Measuring points' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <PointsPage initial={await pageData(waterView(ctx, stationId))} />;
}
