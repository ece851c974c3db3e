import type { ReactNode } from 'react';
import { AppFrame } from '@/ui/shared/AppFrame';
import { pageContext } from '../session';

export default async function Layout({ children }: { children: ReactNode }) {
  const { person } = await pageContext();
  return (
    <AppFrame person={{ id: person.id, name: person.name, initials: person.initials, role: person.role }}>
      {children}
    </AppFrame>
  );
}
