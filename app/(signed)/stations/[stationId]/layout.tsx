import type { ReactNode } from 'react';
import { pageContext } from '@/app/session';
import { stationUses } from '@/server/station/stationUses';
import { StationUsesProvider } from '@/ui/station/StationUses';

export default async function Layout({
  params,
  children,
}: {
  params: Promise<{ stationId: string }>;
  children: ReactNode;
}) {
  const { db } = await pageContext();
  const uses = await stationUses(db, (await params).stationId);
  return <StationUsesProvider uses={uses}>{children}</StationUsesProvider>;
}
