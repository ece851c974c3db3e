import type { Metadata } from 'next';
import { connection } from 'next/server';
import { database } from '@/db/database';
import { hasAdministrator } from '@/server/account/people';
import { SignInForm } from '@/ui/signIn/SignInForm';

export const metadata: Metadata = { title: 'Sign in' };

export default async function Page() {
  await connection();
  return <SignInForm firstStart={!(await hasAdministrator(database()))} />;
}
