import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { planView } from '@/server/plan/plan';
import { PlanPage } from '@/ui/plan/PlanPage';

export const metadata: Metadata = { title: 'Wiring plan' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <PlanPage initial={await pageData(planView(ctx.db, stationId))} />;
}
