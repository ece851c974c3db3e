import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { Calculator } from '@/ui/calculator/Calculator';

export const metadata: Metadata = { title: 'Quick sums' };

export default async function Page() {
  await pageContext();
  return <Calculator />;
}
