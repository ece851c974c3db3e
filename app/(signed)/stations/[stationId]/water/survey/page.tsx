import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { waterView } from '@/server/water/view';
import { SurveyPage } from '@/ui/water/SurveyPage';

export const metadata: Metadata = { title: 'Levelling sheet' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <SurveyPage initial={await pageData(waterView(ctx, stationId))} />;
}
