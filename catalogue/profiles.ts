import type { DeviceProfile } from '@/core/device/equipment';
import type { SensorProfile } from '@/core/device/profile';
import ayreK1 from './profiles/ayre-k1.json';
import ayreR2 from './profiles/ayre-r2.json';
import ayreW1 from './profiles/ayre-w1.json';
import brannochA1 from './profiles/brannoch-a1.json';
import brannochB4 from './profiles/brannoch-b4.json';
import brannochB6 from './profiles/brannoch-b6.json';
import brannochB8 from './profiles/brannoch-b8.json';
import brannochG1 from './profiles/brannoch-g1.json';
import brannochG2 from './profiles/brannoch-g2.json';
import brannochG3 from './profiles/brannoch-g3.json';
import broughN1 from './profiles/brough-n1.json';
import fulmarS1 from './profiles/fulmar-s1.json';
import geoH2 from './profiles/geo-h2.json';
import geoL1 from './profiles/geo-l1.json';
import geoL1b from './profiles/geo-l1b.json';
import harrowK2 from './profiles/harrow-k2.json';
import haskA1 from './profiles/hask-a1.json';
import haskH1 from './profiles/hask-h1.json';
import haskM2 from './profiles/hask-m2.json';
import keldaF1 from './profiles/kelda-f1.json';
import keldaX1 from './profiles/kelda-x1.json';
import linkB12 from './profiles/link-b12.json';
import linkP3 from './profiles/link-p3.json';
import linkS100 from './profiles/link-s100.json';
import linkS250 from './profiles/link-s250.json';
import linkT120 from './profiles/link-t120.json';
import lumA1 from './profiles/lum-a1.json';
import lumV1 from './profiles/lum-v1.json';
import nessB1 from './profiles/ness-b1.json';
import nessD1 from './profiles/ness-d1.json';
import nessL2 from './profiles/ness-l2.json';
import nessP4 from './profiles/ness-p4.json';
import nessS2 from './profiles/ness-s2.json';
import nessU1 from './profiles/ness-u1.json';
import noustN2 from './profiles/noust-n2.json';
import noustN3 from './profiles/noust-n3.json';
import noustP2 from './profiles/noust-p2.json';
import noustP3 from './profiles/noust-p3.json';
import noustP4 from './profiles/noust-p4.json';
import noustS3 from './profiles/noust-s3.json';
import noustT1 from './profiles/noust-t1.json';
import quernC1 from './profiles/quern-c1.json';
import quernTc3 from './profiles/quern-tc3.json';
import quernTh3 from './profiles/quern-th3.json';
import quernTh4 from './profiles/quern-th4.json';
import quernV5 from './profiles/quern-v5.json';
import skuaB1 from './profiles/skua-b1.json';
import skuaC1 from './profiles/skua-c1.json';
import skuaD2 from './profiles/skua-d2.json';
import skuaI1 from './profiles/skua-i1.json';
import skuaM4 from './profiles/skua-m4.json';
import skuaP2 from './profiles/skua-p2.json';
import tarrowC2 from './profiles/tarrow-c2.json';
import tarrowO1 from './profiles/tarrow-o1.json';
import tarrowP1 from './profiles/tarrow-p1.json';
import tarrowT1 from './profiles/tarrow-t1.json';
import tarrowW5 from './profiles/tarrow-w5.json';
import tystC3 from './profiles/tyst-c3.json';
import tystM1 from './profiles/tyst-m1.json';
import tystR1 from './profiles/tyst-r1.json';
import voeT2 from './profiles/voe-t2.json';

/**
 * Device profiles that ship with the application. Makers, models, limits and lead colours are invented. A
 * revision that was released is never changed: raise its number. The tests check that each is whole.
 */
export const profiles: readonly DeviceProfile[] = [
  ayreK1,
  ayreR2,
  ayreW1,
  brannochA1,
  brannochB4,
  brannochB6,
  brannochB8,
  brannochG1,
  brannochG2,
  brannochG3,
  broughN1,
  fulmarS1,
  geoH2,
  geoL1,
  geoL1b,
  harrowK2,
  haskA1,
  haskH1,
  haskM2,
  keldaF1,
  keldaX1,
  linkB12,
  linkP3,
  linkS100,
  linkS250,
  linkT120,
  lumA1,
  lumV1,
  nessB1,
  nessD1,
  nessL2,
  nessP4,
  nessS2,
  nessU1,
  noustN2,
  noustN3,
  noustP2,
  noustP3,
  noustP4,
  noustS3,
  noustT1,
  quernC1,
  quernTc3,
  quernTh3,
  quernTh4,
  quernV5,
  skuaB1,
  skuaC1,
  skuaD2,
  skuaI1,
  skuaM4,
  skuaP2,
  tarrowC2,
  tarrowO1,
  tarrowP1,
  tarrowT1,
  tarrowW5,
  tystC3,
  tystM1,
  tystR1,
  voeT2,
] as unknown as DeviceProfile[];

const byCode = new Map(profiles.map((p) => [p.code, p]));

/** A sensor profile that ships with the application, by its code. */
export const shippedProfile = (code: string): SensorProfile | undefined => {
  const found = byCode.get(code);
  return found?.kind === 'sensor' ? found : undefined;
};

/** Any profile of a kind that ships, by its code. */
export const shipped = <K extends DeviceProfile['kind']>(
  kind: K,
  code: string,
): Extract<DeviceProfile, { kind: K }> | undefined => {
  const found = byCode.get(code);
  return found?.kind === kind ? (found as Extract<DeviceProfile, { kind: K }>) : undefined;
};
