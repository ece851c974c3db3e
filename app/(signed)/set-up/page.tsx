import type { Metadata } from 'next';
import { pageContextFor } from '@/app/session';
import { setUpView } from '@/server/administer/setUpView';
import { SetUp } from '@/ui/setUp/SetUp';

export const metadata: Metadata = { title: 'Sites and stations' };

export default async function Page() {
  const ctx = await pageContextFor('set-up');
  return <SetUp view={await setUpView(ctx.db)} />;
}
