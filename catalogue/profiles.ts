import type { SensorProfile } from '@/core/device/profile';
import harrowK2 from './profiles/harrow-k2.json';
import nessD1 from './profiles/ness-d1.json';
import nessL2 from './profiles/ness-l2.json';
import nessS2 from './profiles/ness-s2.json';
import quernTh3 from './profiles/quern-th3.json';
import skuaM4 from './profiles/skua-m4.json';
import tarrowW5 from './profiles/tarrow-w5.json';

/**
 * Device profiles that ship with the application. Makers, models, limits and lead colours are invented. A
 * revision that was released is never changed: raise its number. The tests check that each is whole.
 */
export const profiles: readonly SensorProfile[] = [
  harrowK2,
  nessD1,
  nessL2,
  nessS2,
  quernTh3,
  skuaM4,
  tarrowW5,
] as unknown as SensorProfile[];

const byCode = new Map(profiles.map((p) => [p.code, p]));

/** A profile that ships with the application, by its code. */
export const shippedProfile = (code: string): SensorProfile | undefined => byCode.get(code);
