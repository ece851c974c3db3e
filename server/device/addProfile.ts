import { refuseDevice, type DeviceProfile } from '@/core/device/equipment';
import { query, row } from '@/db/database';
import { oneSetUp } from '../administer/setUp';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { hashOf } from './profiles';

/**
 * Puts a profile on file as the next revision of its code. The same one sent again is found, not added; one that
 * says something else under a number that is taken is refused: the past of a sensor may not change.
 */
export async function addProfile(
  ctx: Context,
  profile: DeviceProfile,
): Promise<{ code: string; revision: number; added: boolean }> {
  const refused = refuseDevice(profile);
  if (refused) throw badField('profile-unfit', refused.field, refused.value, refused.detail, refused.remedy);
  const { code, revision } = profile;
  const sha256 = hashOf(profile);
  return oneSetUp(ctx, async (tx) => {
    const [newest] = await query<{ revision: number; kind: string }>(
      ctx.db,
      `select revision, body->>'kind' as kind from device_profile where code = :code order by revision desc limit 1`,
      { code },
      tx,
    );
    const same = await row(ctx.db.deviceProfile, { where: { code, revision }, transaction: tx });
    if (same?.sha256 === sha256) return { code, revision, added: false };
    if (newest && newest.kind !== profile.kind)
      throw badField(
        'other-kind',
        'kind',
        profile.kind,
        `${code} is a ${newest.kind}, not a ${profile.kind}.`,
        'Give it a code of its own.',
      );
    const next = (newest?.revision ?? 0) + 1;
    if (same || (newest && revision < next))
      throw inTheWay(
        'revision-taken',
        `${code} is at revision ${newest?.revision ?? revision}; revision ${revision} says something else.`,
        `Save it as revision ${next}.`,
        { next },
      );
    await ctx.db.deviceProfile.create(
      { code, revision, body: profile, sha256, personId: ctx.person.id, addedAt: ctx.now() },
      { transaction: tx },
    );
    await audit(ctx, tx, 'profile.add', null, { code, revision });
    return { code, revision, added: true };
  });
}

/** A profile as it is on file: the newest revision, or the one that is asked for. */
export async function profileOnFile(
  ctx: Context,
  code: string,
  revision: number | null,
): Promise<DeviceProfile> {
  const found = await row(ctx.db.deviceProfile, {
    where: { code, ...(revision !== null && { revision }) },
    order: [['revision', 'DESC']],
  });
  if (!found) throw notFound('profile', `${code}${revision === null ? '' : ` ${revision}`}`);
  return found.body;
}
