'use client';

import { createContext, useContext, type ReactNode } from 'react';
import type { StationBasics } from '@/contract/views';

const BasicsContext = createContext<StationBasics | null>(null);

export const StationBasicsProvider = ({
  basics,
  children,
}: {
  basics: StationBasics;
  children: ReactNode;
}) => <BasicsContext.Provider value={basics}>{children}</BasicsContext.Provider>;

/** What the station of this page is, as far as every page of it goes by it. */
export function useStationBasics(): StationBasics {
  const basics = useContext(BasicsContext);
  if (!basics) throw new Error('useStationBasics outside a station');
  return basics;
}
