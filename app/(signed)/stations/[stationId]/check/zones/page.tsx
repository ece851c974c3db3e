import { pageContext, pageData } from '@/app/session';
import { checkStart } from '@/server/check/open';
import { ZoneRound } from '@/ui/check/ZoneRound';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ stationId: string }>;
  searchParams: Promise<{ zone?: string }>;
}) {
  const ctx = await pageContext();
  const { stationId } = await params;
  const { zone } = await searchParams;
  return <ZoneRound initial={await pageData(checkStart(ctx.db, stationId, ctx.now()))} zone={zone ?? null} />;
}
