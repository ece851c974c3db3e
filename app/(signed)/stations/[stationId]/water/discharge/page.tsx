import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { dischargeView } from '@/server/discharge/view';
import { DischargePage } from '@/ui/discharge/DischargePage';

export const metadata: Metadata = { title: 'Discharge' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <DischargePage initial={await pageData(dischargeView(ctx, stationId))} />;
}
