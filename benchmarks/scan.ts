import { characterTime, frameSilence } from '@/core/bus/serial';
import { scanLine } from '@/devices/scanLine';
import type { ScanHit } from '@/line/scanIds';
import { demoState } from '@/simulator/scenario';
import { startStand } from '@/simulator/stand';
import { printTable } from './table';

/** ms an ID is listened to, as the console proposes. */
const timeOut = 100;
/** Characters of a question, and of the refusal with which the stand's transmitters answer it. */
const [question, answer] = [8, 5];
/** ms the stand's transmitters take to turn their drivers round. */
const turnaround = 8;

/** All 247 IDs through the stand; the aim is 1.3 × what the line takes by itself at this speed and time-out. */
export async function benchScan(): Promise<void> {
  const base = 19_600;
  const state = demoState(Date.now(), base);
  state.loggers = state.loggers
    .filter((l) => l.station === 'KELP-3')
    .map((l) => ({ ...l, ownPort: base + 1, busPort: base + 2 }));
  const stand = await startStand(state, base);
  try {
    const serial = state.loggers[0]!.busSerial;
    const ids = Array.from({ length: 247 }, (_, i) => i + 1);
    const hits: ScanHit[] = [];
    const begun = performance.now();
    await scanLine(
      { host: '127.0.0.1', port: base + 2 },
      ids,
      { serial, character: characterTime(serial), timeOut, beforeEach: async () => {} },
      (hit) => hits.push(hit),
    );
    const taken = performance.now() - begun;
    const character = characterTime(serial);
    const gap = frameSilence(serial);
    const least =
      (ids.length - hits.length) * (question * character + timeOut + gap) +
      hits.length * ((question + answer) * character + turnaround + 2 * gap);
    printTable('Scan of the line, through the stand', [
      {
        what: `247 IDs, ${hits.length} answer, ${timeOut} ms each`,
        value: `${(taken / 1000).toFixed(2)} s`,
        against: `the line by itself ${(least / 1000).toFixed(2)} s`,
        ratio: (taken / least).toFixed(2),
        aim: '1.3 ×',
      },
    ]);
  } finally {
    await stand.close();
  }
}
