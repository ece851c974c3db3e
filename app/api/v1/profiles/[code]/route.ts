import { read } from '@/app/api/respond';
import { profileOnFile } from '@/server/device/addProfile';
import { badField } from '@/server/problem';

/** One profile as the JSON it is exchanged as; `?revision=` for an older one. */
export const GET = read('view', async (ctx, request, { code }) => {
  const asked = request.nextUrl.searchParams.get('revision');
  const revision = asked === null ? null : Number(asked);
  if (revision !== null && !(Number.isInteger(revision) && revision > 0 && revision < 10_000))
    throw badField(
      'bad-revision',
      'revision',
      asked,
      `"${asked}" is no revision.`,
      'Use a whole number from 1.',
    );
  return profileOnFile(ctx, code!, revision);
});
