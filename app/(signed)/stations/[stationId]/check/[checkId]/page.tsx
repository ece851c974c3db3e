import { pageContext, pageData } from '@/app/session';
import { checkView } from '@/server/check/view';
import { CheckRun } from '@/ui/check/CheckRun';

export default async function Page({ params }: { params: Promise<{ stationId: string; checkId: string }> }) {
  const ctx = await pageContext();
  const { stationId, checkId } = await params;
  return <CheckRun initial={await pageData(checkView(ctx.db, stationId, checkId, ctx.now()))} />;
}
