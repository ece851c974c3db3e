import type { Metadata } from 'next';
import { pageContext, pageData } from '@/app/session';
import { handheldReadings } from '@/server/handheld/handheldReadings';
import { HandheldReadings } from '@/ui/handheld/HandheldReadings';

export const metadata: Metadata = { title: 'Readings of handhelds' };

export default async function Page() {
  const ctx = await pageContext();
  return <HandheldReadings initial={await pageData(handheldReadings(ctx.db))} />;
}
