import { pageContext, pageData } from '@/app/session';
import { checkStart } from '@/server/check/open';
import { CheckStart } from '@/ui/check/CheckStart';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ stationId: string }>;
  searchParams: Promise<{ channel?: string }>;
}) {
  const ctx = await pageContext();
  const { stationId } = await params;
  const { channel } = await searchParams;
  return (
    <CheckStart
      start={await pageData(checkStart(ctx.db, stationId, ctx.now()))}
      channelId={channel ?? null}
    />
  );
}
