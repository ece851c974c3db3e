// `npm run demo`: everything a fresh machine needs, then the application on demo data until Ctrl-C.
import { claim, keepRunning, stopAll } from './children.mjs';
import { debian, ensureBuild, ensureDebian, ensurePackages, say } from './machine.mjs';

if (!claim('demo')) {
  say('The demo runs already in this folder: stop it there with Ctrl-C first.');
  process.exit(1);
}
const fresh = process.argv.includes('--fresh');
const began = Date.now();
ensureDebian([debian.postgresql]);
ensurePackages();
await ensureBuild();
const { startStack } = await import('./stack.mjs');

let stack;
let stopping = false;
const stop = async (code) => {
  if (stopping) return;
  stopping = true;
  say('\nStopping …');
  await stopAll();
  stack?.postgres.stop();
  process.exit(code);
};
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

try {
  stack = await startStack('demo', { fresh });
} catch (error) {
  say(`Could not start: ${error.message}`);
  await stop(1);
}
say(`
Outer Cairn runs at ${stack.url}   (ready after ${Math.round((Date.now() - began) / 1000)} s)

  sign in as      password            may
  technician      peat-and-lichen     connect, talk, write, check, collect, import
  reviewer        peat-and-lichen     look at everything, mark, correct, approve
  viewer          peat-and-lichen     look at everything
  admin           peat-and-lichen     all of it

The practice stand (simulated loggers and handhelds) is at ${stack.lab}/lab
Ctrl-C stops it all; the data stay. "npm run demo -- --fresh" starts over.
`);
// A killed application comes back, as under a service manager; one that cannot stay up is said to.
keepRunning(stack.app, stack.startApp, {
  stopping: () => stopping,
  say,
  giveUp: () => void stop(1),
});
stack.simulator.child.on('exit', (code) => {
  if (stopping) return;
  say(`${stack.simulator.name} ended (${code}); see .data/${stack.simulator.name}.log`);
  void stop(1);
});
