import type { Metadata } from 'next';
import { SignInForm } from '@/ui/signIn/SignInForm';

export const metadata: Metadata = { title: 'Sign in' };
export const dynamic = 'force-dynamic';

export default function Page() {
  return <SignInForm />;
}
