import type { Metadata } from 'next';
import { connection } from 'next/server';
import { database } from '@/db/database';
import { hasAdministrator } from '@/server/account/people';
import { Welcome } from '@/ui/account/Welcome';

export const metadata: Metadata = { title: 'The first account' };

export default async function Page() {
  await connection();
  return <Welcome needed={!(await hasAdministrator(database()))} />;
}
