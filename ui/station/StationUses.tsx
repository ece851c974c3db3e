'use client';

import { createContext, useContext, type ReactNode } from 'react';
import type { StationUses } from '@/contract/views';

const UsesContext = createContext<StationUses>({ logger: true });

export const StationUsesProvider = ({ uses, children }: { uses: StationUses; children: ReactNode }) => (
  <UsesContext.Provider value={uses}>{children}</UsesContext.Provider>
);

/** What the station of this page has use for. */
export const useStationUses = (): StationUses => useContext(UsesContext);
