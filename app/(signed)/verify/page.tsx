import { pageContext, pageData } from '@/app/session';
import { Problem } from '@/server/problem';
import { verifyList, verifyQuery } from '@/server/verify/list';
import { VerifyList } from '@/ui/verify/VerifyList';

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string>> }) {
  const ctx = await pageContext();
  const asked = new URLSearchParams(await searchParams);
  let query;
  try {
    query = verifyQuery(asked);
  } catch (error) {
    // An address somebody typed: what it asks for cannot be had, the usual list can.
    if (!(error instanceof Problem)) throw error;
    query = verifyQuery(new URLSearchParams());
  }
  return (
    <VerifyList initial={await pageData(verifyList(ctx.db, query, ctx.now()))} asked={asked.toString()} />
  );
}
