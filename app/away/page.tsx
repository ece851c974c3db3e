import { connection } from 'next/server';
import { Away } from '@/ui/away/Away';

/** The shell: a page without a person in it, which draws what the device holds under whatever address was wanted. */
export default async function Page() {
  // Its scripts are allowed by a number that each answer draws anew.
  await connection();
  return <Away />;
}
