import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { channelWatch } from '@/server/watch/channelView';
import { ChannelWatch } from '@/ui/watch/ChannelWatch';

export const metadata: Metadata = { title: 'Watch a channel' };

export default async function Page({
  params,
}: {
  params: Promise<{ stationId: string; channelId: string }>;
}) {
  const ctx = await pageContext();
  const { stationId, channelId } = await params;
  return <ChannelWatch initial={await pageData(channelWatch(ctx, stationId, channelId))} />;
}
