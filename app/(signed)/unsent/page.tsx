import type { Metadata } from 'next';
import { Unsent } from '@/ui/outbox/Unsent';

export const metadata: Metadata = { title: 'Not sent yet' };

export default function Page() {
  return <Unsent />;
}
