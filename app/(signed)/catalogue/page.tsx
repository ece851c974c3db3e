import type { Metadata } from 'next';
import { pageContext } from '@/app/session';
import { newestDevices } from '@/server/device/profiles';
import { Catalogue } from '@/ui/catalogue/Catalogue';

export const metadata: Metadata = { title: 'Catalogue' };

export default async function Page() {
  const ctx = await pageContext();
  return <Catalogue profiles={await newestDevices(ctx.db)} />;
}
