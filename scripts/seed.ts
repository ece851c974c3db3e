import { writeFileSync } from 'node:fs';
import { closeDatabase, database } from '@/db/database';
import { demoState } from '@/simulator/scenario';
import { startStand } from '@/simulator/stand';
import { playHistory } from './history';

/** Fills an empty database by living through ninety days against the practice stand: `seed.ts STATE_FILE BASE_PORT [STATION …]`. */
const [file, basePort, ...only] = process.argv.slice(2);
if (!file || !basePort) throw new Error('usage: seed.ts STATE_FILE BASE_PORT [STATION …]');
process.stdout.write('Living through ninety days of demo record …\n');
const now = Math.floor(Date.now() / 60_000) * 60_000;
const state = demoState(now, Number(basePort));
const stand = await startStand(state, Number(basePort));
try {
  await playHistory(database(), state, Number(basePort), now, only.length > 0 ? only : undefined);
  state.clock = { mode: 'real' };
  writeFileSync(file, JSON.stringify(state));
} finally {
  await stand.close();
  await closeDatabase();
}
