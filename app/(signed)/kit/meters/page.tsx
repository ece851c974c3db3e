import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { meters } from '@/server/kit/meters';
import { Meters } from '@/ui/kit/Meters';

export const metadata: Metadata = { title: 'Meters' };

export default async function Page() {
  const ctx = await pageContext();
  return <Meters initial={await pageData(meters(ctx.db))} />;
}
