import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { recoveryView } from '@/server/bus/recoveryView';
import { Recovery } from '@/ui/recovery/Recovery';

export const metadata: Metadata = { title: 'It does not answer' };

export default async function Page({
  params,
}: {
  params: Promise<{ stationId: string; recoveryId: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, recoveryId } = await params;
  return <Recovery initial={await pageData(recoveryView(ctx.db, stationId, recoveryId, ctx.now()))} />;
}
