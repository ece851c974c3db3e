import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { waterView } from '@/server/water/view';
import { WaterPage } from '@/ui/water/WaterPage';

export const metadata: Metadata = { title: 'Water' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <WaterPage initial={await pageData(waterView(ctx, stationId))} />;
}
