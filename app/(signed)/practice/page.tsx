import type { Metadata } from 'next';
import { pageContextFor, pageData } from '@/app/session';
import { practiceView } from '@/server/practice/stand';
import { Practice } from '@/ui/practice/Practice';

export const metadata: Metadata = { title: 'Practice' };

export default async function Page() {
  const ctx = await pageContextFor('administer');
  return <Practice initial={await pageData(practiceView(ctx))} />;
}
