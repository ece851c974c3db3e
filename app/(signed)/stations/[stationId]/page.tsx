import { pageContext, pageData } from '@/app/session';
import { stationSheet } from '@/server/station/stationSheet';
import { StationSheet } from '@/ui/station/StationSheet';

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <StationSheet initial={await pageData(stationSheet(ctx.db, stationId, ctx.now()))} />;
}
