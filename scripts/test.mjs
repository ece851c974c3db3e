// `npm test`: everything, from nothing. `npm test -- unit integration` runs only those steps.
import { fenceArguments } from '../layers.mjs';
import { debian, ensureBuild, ensureDebian, ensurePackages, root, run, say } from './machine.mjs';

const steps = process.argv.slice(2).filter((a) => !a.startsWith('-'));
const wanted = (name) => steps.length === 0 || steps.includes(name);
const began = Date.now();
const done = [];

ensureDebian([debian.postgresql, debian.chromium]);
ensurePackages();
const node = process.execPath;
const bin = (file) => ['node_modules/' + file];

const step = (name, command, args, env = {}) => {
  if (!wanted(name)) return;
  const at = Date.now();
  say(`\n── ${name} ──`);
  const status = run(command, args, { env: { ...process.env, ...env } });
  done.push([name, status === 0, Math.round((Date.now() - at) / 1000)]);
  if (status !== 0) finish(1);
};

let postgres = null;
function finish(code) {
  postgres?.stop();
  say('');
  for (const [name, ok, seconds] of done) say(`${ok ? 'passed' : 'FAILED'}  ${name} (${seconds} s)`);
  say(`${Math.round((Date.now() - began) / 1000)} s in all`);
  say(`${done.filter(([, ok]) => ok).length} passed, ${done.filter(([, ok]) => !ok).length} failed`);
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => finish(130));

step('format', node, [...bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.']);
step('lint', node, [...bin('eslint/bin/eslint.js'), '--max-warnings', '0', '.']);
step('layers', node, fenceArguments);
// Next writes the types of its routes; the type check needs them.
step('types', node, ['scripts/types.mjs']);
step('unit', node, [...bin('jest/bin/jest.js'), '--selectProjects', 'unit']);
if (wanted('integration')) {
  const { startPostgres } = await import('./postgres.mjs');
  postgres = await startPostgres('test');
  step(
    'integration',
    node,
    [
      ...bin('jest/bin/jest.js'),
      '--selectProjects',
      'integration',
      '--maxWorkers=2',
      ...process.argv.slice(2).filter((a) => a.startsWith('-')),
    ],
    {
      SUPER_URL: postgres.superUrl(),
      OWNER_PASSWORD: postgres.secrets.owner,
      APP_PASSWORD: postgres.secrets.app,
      LOG_LEVEL: 'silent',
    },
  );
  postgres.stop();
  postgres = null;
}
if (wanted('end-to-end')) {
  ensureBuild();
  step('end-to-end', node, [...bin('@playwright/test/cli.js'), 'test'], { OUTER_CAIRN_ROOT: root });
}
finish(0);
