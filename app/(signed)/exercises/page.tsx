import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { exerciseViews } from '@/server/practice/exercises';
import { Exercises } from '@/ui/exercise/Exercises';

export const metadata: Metadata = { title: 'Exercises' };

export default async function Page({ searchParams }: { searchParams: Promise<{ n?: string | string[] }> }) {
  await pageContext();
  return <Exercises all={exerciseViews()} asked={Number((await searchParams).n)} />;
}
