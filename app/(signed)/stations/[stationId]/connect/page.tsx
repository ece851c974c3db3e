import { pageContext, pageData } from '@/app/session';
import { may } from '@/contract/permission';
import { connectView } from '@/server/device/connect';
import { Connect } from '@/ui/connect/Connect';

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  const { stationId } = await params;
  return (
    <Connect initial={await pageData(connectView(ctx.db, stationId, may(ctx.person.role, 'measure')))} />
  );
}
