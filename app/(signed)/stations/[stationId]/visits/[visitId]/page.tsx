import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { bookPage } from '@/server/book/page';
import { BookPage } from '@/ui/fieldBook/BookPage';

export const metadata: Metadata = { title: 'Page of the field book' };

export default async function Page({ params }: { params: Promise<{ stationId: string; visitId: string }> }) {
  const ctx = await pageContext();
  const { stationId, visitId } = await params;
  return <BookPage initial={await pageData(bookPage(ctx, stationId, visitId))} />;
}
