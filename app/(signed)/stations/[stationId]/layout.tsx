import type { ReactNode } from 'react';
import { pageContext, pageData } from '@/app/session';
import { stationBasics } from '@/server/station/stationBasics';
import { StationBasicsProvider } from '@/ui/station/StationBasics';

export default async function Layout({
  params,
  children,
}: {
  params: Promise<{ stationId: string }>;
  children: ReactNode;
}) {
  const { db } = await pageContext();
  const basics = await pageData(stationBasics(db, (await params).stationId));
  return <StationBasicsProvider basics={basics}>{children}</StationBasicsProvider>;
}
