import { pageContext, pageData } from '@/app/session';
import { stationRecord } from '@/server/record/stationRecord';
import { StationRecord } from '@/ui/record/StationRecord';

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  return (
    <StationRecord initial={await pageData(stationRecord(ctx.db, (await params).stationId, ctx.now()))} />
  );
}
