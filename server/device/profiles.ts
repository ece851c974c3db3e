import { createHash } from 'node:crypto';
import type { Transaction } from 'sequelize';
import { profiles as shipped } from '@/catalogue/profiles';
import { refuseDevice, type DeviceProfile } from '@/core/device/equipment';
import { unknownProfile, type SensorProfile } from '@/core/device/profile';
import { query, type Database } from '@/db/database';
import { storedProfile } from '@/db/stored/profile';
import { log } from '../process/log';
import { inTheWay, type Problem } from '../problem';

/** Code and revision of a profile, as a sensor pins it. */
export interface ProfilePin {
  readonly profileCode: string;
  readonly profileRevision: number;
}
export const pinText = (p: ProfilePin): string => `${p.profileCode} ${p.profileRevision}`;

interface Found extends ProfilePin {
  body: unknown;
  /** What tells two bodies apart. */
  mark: string;
}
const columns = 'code as "profileCode", revision as "profileRevision", body, md5(body::text) as mark';

/** Bodies that were read before, by their marks: every page asks for the same few dozen, and a revision never changes. */
const readBefore = new Map<string, DeviceProfile>();
const keeps = 1000;

/** What was found, read; a body that cannot be read is as good as missing. */
function readable({ body, mark, ...pin }: Found): DeviceProfile | null {
  const known = readBefore.get(mark);
  if (known) return known;
  try {
    const profile = storedProfile.read(body);
    if (refuseDevice(profile)) return null;
    if (readBefore.size >= keeps) readBefore.clear();
    readBefore.set(mark, profile);
    return profile;
  } catch (error) {
    log.error({ err: error, ...pin }, 'a device profile cannot be read');
    return null;
  }
}

/** The profiles of some sensors, by `pinText`. One that is missing or unreadable is not among them: that is a finding, not an error. */
export const pinnedProfiles = async (
  db: Database,
  pins: readonly ProfilePin[],
  tx?: Transaction,
): Promise<Map<string, SensorProfile>> =>
  new Map(
    [...(await pinnedDevices(db, pins, tx))].flatMap(([pin, p]) =>
      p.kind === 'sensor' ? [[pin, p] as const] : [],
    ),
  );

/** Profiles of any kind, likewise. */
export async function pinnedDevices(
  db: Database,
  pins: readonly ProfilePin[],
  tx?: Transaction,
): Promise<Map<string, DeviceProfile>> {
  const wanted = [...new Map(pins.map((p) => [pinText(p), p])).values()];
  if (wanted.length === 0) return new Map();
  const found = await query<Found>(
    db,
    `select ${columns} from device_profile where (code, revision) in (:pins)`,
    { pins: wanted.map((p) => [p.profileCode, p.profileRevision]) },
    tx,
  );
  return new Map(
    found.flatMap((f) => {
      const profile = readable(f);
      return profile ? [[pinText(f), profile] as const] : [];
    }),
  );
}

/** Nothing can be done with a sensor nobody knows. */
export const profileMissing = (sensor: ProfilePin & { readonly serial: string }): Problem =>
  inTheWay(
    'profile-missing',
    `The profile of ${sensor.serial}, ${pinText(sensor)}, is not on file: nobody knows what to ask it.`,
    'Add that profile to the catalogue again.',
  );

/** A sensor's profile, or one that knows nothing where its own is missing. */
export const profileOrUnknown = (
  known: ReadonlyMap<string, SensorProfile>,
  pin: ProfilePin,
): { profile: SensorProfile; known: boolean } => {
  const profile = known.get(pinText(pin));
  return profile
    ? { profile, known: true }
    : { profile: unknownProfile(pin.profileCode, pin.profileRevision), known: false };
};

/** The newest revision of every sensor profile, by name: what can be installed today. */
export const newestProfiles = async (db: Database): Promise<SensorProfile[]> =>
  (await newestDevices(db)).flatMap((p) => (p.kind === 'sensor' ? [p] : []));

/** The newest revision of every profile of any kind, by name. */
export async function newestDevices(db: Database, tx?: Transaction): Promise<DeviceProfile[]> {
  const found = await query<Found>(
    db,
    `select distinct on (code) ${columns} from device_profile order by code, revision desc`,
    {},
    tx,
  );
  return found.flatMap((f) => readable(f) ?? []).sort((a, b) => a.name.localeCompare(b.name));
}

/** The same whatever order the fields stand in. */
const canonical = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(canonical)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, v]) => [k, canonical(v)]),
        )
      : value;
/** What tells two profiles apart, whatever order their fields stand in. */
export const hashOf = (profile: DeviceProfile): string =>
  createHash('sha256')
    .update(JSON.stringify(canonical(profile)))
    .digest('hex');

/**
 * Puts the profiles that ship with the application on file, each revision once. Throws when one differs from
 * what was released under its number: the past of a sensor may not change.
 */
export async function stockProfiles(db: Database): Promise<number> {
  let added = 0;
  for (const profile of shipped) {
    const { code, revision } = profile;
    const sha256 = hashOf(profile);
    const [kept] = await query<{ sha256: string; mine: boolean }>(
      db,
      `with mine as (
         insert into device_profile (code, revision, body, sha256) values (:code, :revision, :body, :sha256)
         on conflict (code, revision) do nothing returning sha256)
       select sha256, true as mine from mine
       union all select sha256, false from device_profile where code = :code and revision = :revision`,
      { code, revision, body: JSON.stringify(storedProfile.write(profile)), sha256 },
    );
    if (kept!.sha256 !== sha256)
      throw new Error(
        `profile ${code} revision ${revision} differs from the one on file: raise its revision`,
      );
    if (kept!.mine) added++;
  }
  return added;
}
