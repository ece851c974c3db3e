import type { Metadata } from 'next';
import { SetPassword } from '@/ui/account/SetPassword';

export const metadata: Metadata = { title: 'Choose a password' };
export const dynamic = 'force-dynamic';

export default function Page() {
  return <SetPassword />;
}
