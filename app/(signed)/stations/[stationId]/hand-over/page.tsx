import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { handOver } from '@/server/visit/handOver';
import { HandOver } from '@/ui/visit/HandOver';

export const metadata: Metadata = { title: 'Hand-over' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <HandOver initial={await pageData(handOver(ctx, stationId))} />;
}
