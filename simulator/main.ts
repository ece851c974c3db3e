import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { demoState } from './scenario';
import { sinkPorts } from './sinks';
import { startStand } from './stand';
import type { SimState } from './state';

/** Entry of the simulator process: `main.ts STATE_FILE BASE_PORT [HOST]`. State is kept in the file. */
const [file, basePortText, host = '127.0.0.1'] = process.argv.slice(2);
const basePort = Number(basePortText);
if (!file || !Number.isInteger(basePort))
  throw new Error('usage: simulator/main.ts STATE_FILE BASE_PORT [HOST]');

const state: SimState = existsSync(file)
  ? (JSON.parse(readFileSync(file, 'utf8')) as SimState)
  : demoState(Date.now(), basePort);

const save = () => {
  writeFileSync(`${file}.new`, JSON.stringify(state));
  renameSync(`${file}.new`, file);
};
save();
const stand = await startStand(state, basePort, save, host, sinkPorts(basePort));
process.stdout.write(`practice stand on ${host}:${basePort}\n`);
const stop = () => void stand.close().then(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
