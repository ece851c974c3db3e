import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/** Acts at a station leave both their lines by `recordAct`: neither is left alone anywhere else. */
const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    return entry.isDirectory() ? sources(full) : /(?<!\.test)\.ts$/.test(full) ? [full] : [];
  });

test('nothing but recordAct leaves a line in the field book by itself', () =>
  expect(
    sources('server').filter(
      (file) => !file.startsWith('server/book/') && /\baddLine\b/.test(readFileSync(file, 'utf8')),
    ),
  ).toEqual([]));

test('nor a line in the audit trail, but what has no station: accounts, sites and stations, profiles, the kit, handhelds, receivers of alarms', () =>
  expect(
    sources('server')
      .filter((file) => !file.startsWith('server/book/'))
      .filter((file) => /\baudit(Line)?\(/.test(readFileSync(file, 'utf8')))
      .sort(),
  ).toEqual([
    'server/account/people.ts',
    'server/account/signIn.ts',
    'server/administer/addStation.ts',
    'server/administer/changeStation.ts',
    'server/device/addProfile.ts',
    'server/handheld/handheldReadings.ts',
    'server/kit/calibration.ts',
    'server/kit/circuits.ts',
    'server/kit/foundOff.ts',
    'server/kit/kit.ts',
    'server/kit/meters.ts',
    'server/kit/standards.ts',
    'server/watch/receivers.ts',
  ]));
