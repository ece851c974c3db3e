import { pageContext, pageData } from '@/app/session';
import { importStart } from '@/server/import/view';
import { Import } from '@/ui/import/Import';

export default async function Page({ params }: { params: Promise<{ stationId: string }> }) {
  const ctx = await pageContext();
  return <Import initial={await pageData(importStart(ctx.db, (await params).stationId))} />;
}
