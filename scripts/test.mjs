// `npm test`: everything, from nothing. `npm test -- unit integration` runs only those steps.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { debian, ensureDebian, ensurePackages, root, say } from './machine.mjs';

const steps = process.argv.slice(2).filter((a) => !a.startsWith('-'));
const options = process.argv.slice(2).filter((a) => a.startsWith('-'));
const wanted = (name) =>
  steps.length === 0 || steps.includes(name) || (name === 'build' && steps.includes('end-to-end'));
const began = Date.now();
const done = [];

ensureDebian([debian.postgresql, debian.chromium]);
ensurePackages();
const bin = (file) => ['node_modules/' + file];

/** Processes at work, and whether each is the first of a group. */
const running = new Map();

/** Runs one step; with others beside it, its output is kept until it ends. */
async function step(name, args, { env = {}, beside = false } = {}) {
  if (!wanted(name)) return;
  const at = Date.now();
  if (!beside) say(`\n── ${name} ──`);
  const output = beside ? 'pipe' : 'inherit';
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ['ignore', output, output],
    // A group of its own, so that what it started ends with it when another step fails.
    detached: beside,
  });
  running.set(child, beside);
  const kept = [];
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (piece) => kept.push(piece));
  const [status] = await once(child, 'close');
  running.delete(child);
  if (finished) return;
  if (beside) say(`\n── ${name} ──\n${Buffer.concat(kept).toString().trimEnd()}`);
  done.push([name, status === 0, Math.round((Date.now() - at) / 1000)]);
  if (status !== 0) finish(1);
}

let finished = false;
let postgres = null;
function finish(code) {
  finished = true;
  for (const [child, first] of running)
    try {
      process.kill(first ? -child.pid : child.pid);
    } catch {
      // Gone already.
    }
  postgres?.stop();
  say('');
  for (const [name, ok, seconds] of done) say(`${ok ? 'passed' : 'FAILED'}  ${name} (${seconds} s)`);
  say(`${Math.round((Date.now() - began) / 1000)} s in all`);
  say(`${done.filter(([, ok]) => ok).length} passed, ${done.filter(([, ok]) => !ok).length} failed`);
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => finish(130));

// Neither of the two cores waits for the other. Next writes the types of its routes; the type check
// needs them, and the build after it makes the same folder anew.
await Promise.all([
  (async () => {
    await step('format', [...bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.'], {
      beside: true,
    });
    await step('lint', [...bin('eslint/bin/eslint.js'), '--max-warnings', '0', '.'], { beside: true });
    await step('unit', [...bin('jest/bin/jest.js'), '--selectProjects', 'unit'], { beside: true });
  })(),
  (async () => {
    await step('types', ['scripts/types.mjs'], { beside: true });
    await step('build', ['scripts/build.mjs'], { beside: true });
  })(),
]);
if (wanted('integration')) {
  const { startPostgres } = await import('./postgres.mjs');
  postgres = await startPostgres('test');
  await step(
    'integration',
    [...bin('jest/bin/jest.js'), '--selectProjects', 'integration', '--maxWorkers=2', ...options],
    {
      env: {
        SUPER_URL: postgres.superUrl(),
        OWNER_PASSWORD: postgres.secrets.owner,
        APP_PASSWORD: postgres.secrets.app,
        LOG_LEVEL: 'silent',
      },
    },
  );
  postgres.stop();
  postgres = null;
}
await step('end-to-end', [...bin('@playwright/test/cli.js'), 'test'], {
  env: { OUTER_CAIRN_ROOT: root },
});
finish(0);
