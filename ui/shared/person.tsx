'use client';

import { createContext, useContext, type ReactNode } from 'react';
import { may, type Permission } from '@/contract/permission';
import type { PersonView } from '@/contract/views';

const PersonContext = createContext<PersonView | null>(null);

export function PersonProvider({ person, children }: { person: PersonView; children: ReactNode }) {
  return <PersonContext.Provider value={person}>{children}</PersonContext.Provider>;
}

export function usePerson(): PersonView {
  const person = useContext(PersonContext);
  if (!person) throw new Error('usePerson outside a signed-in page');
  return person;
}

/** Whether the signed-in person may do something: controls they may not use are not shown. */
export const useMay = (permission: Permission): boolean => may(usePerson().role, permission);
