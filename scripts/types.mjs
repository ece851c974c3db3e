// Generates Next's route types, then checks every type in the project.
import { run } from './machine.mjs';

const next = run(process.execPath, ['node_modules/next/dist/bin/next', 'typegen'], {
  stdio: ['ignore', 'ignore', 'inherit'],
});
process.exit(next || run(process.execPath, ['node_modules/typescript/bin/tsc', '--noEmit']));
