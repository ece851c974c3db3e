import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { deployView } from '@/server/deploy/deployView';
import { DeployPage } from '@/ui/deploy/DeployPage';

export const metadata: Metadata = { title: 'Launch and read out' };

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return <DeployPage initial={await pageData(deployView(ctx.db, stationId))} />;
}
