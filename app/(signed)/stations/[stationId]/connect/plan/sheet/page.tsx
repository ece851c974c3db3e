import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pageContext, pageData } from '@/app/session';
import { planView } from '@/server/plan/plan';
import { WiringSheet } from '@/ui/plan/WiringSheet';

export const metadata: Metadata = { title: 'Wiring sheet' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  const view = await pageData(planView(ctx.db, stationId));
  if (!view.plan) notFound();
  return <WiringSheet view={view} plan={view.plan} />;
}
