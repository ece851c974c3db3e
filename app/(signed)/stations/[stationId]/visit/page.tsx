import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { visitView } from '@/server/visit/visitView';
import { VisitPage } from '@/ui/visit/VisitPage';

export const metadata: Metadata = { title: 'Visit' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <VisitPage initial={await pageData(visitView(ctx, stationId))} />;
}
