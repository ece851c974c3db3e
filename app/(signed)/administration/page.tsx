import type { Metadata } from 'next';
import { pageContextFor } from '@/app/session';
import { people } from '@/server/account/people';
import { practiceIsThere } from '@/server/practice/stand';
import { People } from '@/ui/account/People';

export const metadata: Metadata = { title: 'Administration' };

export default async function Page() {
  const ctx = await pageContextFor('administer');
  return <People initial={await people(ctx.db)} practice={practiceIsThere()} />;
}
