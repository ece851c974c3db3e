// `npm test`: everything, from nothing. `npm test -- unit integration` runs only those steps;
// `npm test -- changed` what the uncommitted changes (or else the last commit) can touch.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { fenceArguments } from '../layers.mjs';
import { debian, ensureBuild, ensureDebian, ensurePackages, root, say } from './machine.mjs';

const words = process.argv.slice(2).filter((a) => !a.startsWith('-'));
const options = process.argv.slice(2).filter((a) => a.startsWith('-'));
const changed = words.includes('changed') ? changedFiles() : null;
const wanted = (name) => words.length === 0 || changed !== null || words.includes(name);
const began = Date.now();
const done = [];
const running = new Set();
let postgres = null;

ensureDebian([debian.postgresql, debian.chromium]);
ensurePackages();
const bin = (file) => ['node_modules/' + file];
const code = (files) => files.filter((f) => /\.(m?js|tsx?)$/.test(f));

function finish(status) {
  for (const child of running) child.kill('SIGTERM');
  postgres?.stop();
  say('');
  for (const [name, ok, seconds] of done) say(`${ok ? 'passed' : 'FAILED'}  ${name} (${seconds} s)`);
  say(`${Math.round((Date.now() - began) / 1000)} s in all`);
  say(`${done.filter(([, ok]) => ok).length} passed, ${done.filter(([, ok]) => !ok).length} failed`);
  process.exit(status);
}
// A build that fails ends this process: the database goes with it.
process.on('exit', () => postgres?.stop());
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => finish(130));

/** Runs a step; beside others it keeps its output until it ends, so that no two mix. Resolves when it passed. */
function step(name, args, { env = {}, beside = false } = {}) {
  if (!wanted(name)) return Promise.resolve();
  const at = Date.now();
  if (!beside) say(`\n── ${name} ──`);
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: beside ? ['ignore', 'pipe', 'pipe'] : 'inherit',
  });
  running.add(child);
  let kept = '';
  for (const stream of [child.stdout, child.stderr])
    stream?.setEncoding('utf8').on('data', (text) => (kept += text));
  return new Promise((resolve) =>
    child.on('close', (status) => {
      running.delete(child);
      if (beside) say(`\n── ${name} ──\n${kept.trimEnd()}`);
      done.push([name, status === 0, Math.round((Date.now() - at) / 1000)]);
      if (status === 0) resolve();
      else finish(1);
    }),
  );
}

/** Files that differ from what is committed, or those of the last commit; none that are gone. */
function changedFiles() {
  const git = (...args) =>
    spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);
  const open = [...git('diff', '--name-only', 'HEAD'), ...git('ls-files', '--others', '--exclude-standard')];
  const files = open.length > 0 ? open : git('diff', '--name-only', 'HEAD~1');
  say(`${files.length} changed files`);
  return files.filter((f) => existsSync(f));
}

/** Arguments by which Jest runs a project, or of it what the changed files can touch; null for nothing. */
function jest(project) {
  const args = [...bin('jest/bin/jest.js'), '--selectProjects', project, ...options];
  if (!changed) return args;
  const related = [...args, '--findRelatedTests', ...code(changed)];
  if (code(changed).length === 0) return null;
  const listed = spawnSync(process.execPath, [...related, '--listTests'], { cwd: root, encoding: 'utf8' });
  return listed.stdout.includes('.test.ts') ? [...related, '--passWithNoTests'] : null;
}

const every = changed ?? ['.'];
const linted = changed ? code(changed) : ['.'];
const unit = jest('unit');
const prettier = [...bin('prettier/bin/prettier.cjs'), '--check', '--ignore-unknown', '--log-level', 'warn'];
const eslint = [...bin('eslint/bin/eslint.js'), '--no-warn-ignored', '--max-warnings', '0', ...linted];
const journeys = changed?.filter((f) => f.startsWith('e2e/') && f.endsWith('.spec.ts')) ?? [];
const drives = changed ? journeys.length > 0 : wanted('end-to-end');
// Alone, a step shows what it does as it goes.
const beside = words.length !== 1 || changed !== null;

async function integrate() {
  const integration = wanted('integration') ? jest('integration') : null;
  if (!integration) return;
  const { startPostgres } = await import('./postgres.mjs');
  postgres = await startPostgres('test');
  // More than there are processors: three quarters of their time they wait, for the database, for a line, for a
  // process to be killed.
  await step('integration', [...integration, '--maxWorkers=6'], {
    env: {
      SUPER_URL: postgres.superUrl(),
      OWNER_PASSWORD: postgres.secrets.owner,
      APP_PASSWORD: postgres.secrets.app,
      LOG_LEVEL: 'silent',
    },
  });
  postgres.stop();
  postgres = null;
}

async function drive() {
  if (changed && !drives) say('\nNo journey was changed. A change of a screen: `npm test -- end-to-end`.');
  if (!drives) return;
  await building;
  await step('end-to-end', [...bin('@playwright/test/cli.js'), 'test', ...journeys], {
    env: { OUTER_CAIRN_ROOT: root },
  });
}

// Lint is one process and the longest of these: what comes after them need not wait for it with a processor idle.
const linting = linted.length > 0 ? step('lint', eslint, { beside }) : null;
await step('format', [...prettier, ...every], { beside });
await step('layers', fenceArguments, { beside });
// Next writes the types of its routes; the type check needs them.
await step('types', ['scripts/types.mjs'], { beside });
// Left to itself Jest keeps one processor free, for nobody.
if (unit) await step('unit', [...unit, '--maxWorkers=2'], { beside });
// The integration tests wait for a database, for lines, for processes to be killed: the build fills what they leave.
const building = drives ? ensureBuild((child) => running.add(child)) : null;
building?.catch(() => undefined);
// Integration and journeys fill the processor: side by side they take as long as one after the other, and time out.
await integrate();
await linting;
await drive();
finish(0);
