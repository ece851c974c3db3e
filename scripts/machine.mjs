// What a fresh machine lacks: Debian packages and npm packages. Node built-ins only.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { layers, rootFiles } from '../layers.mjs';

export const root = path.resolve(import.meta.dirname, '..');

export const say = (text) => process.stdout.write(`${text}\n`);

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (result.error) throw result.error;
  return result.status ?? 1;
}

/** The folder of PostgreSQL's server programs, or null. */
export function postgresBin() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return null;
  const versions = readdirSync(base)
    .filter((v) => existsSync(path.join(base, v, 'bin', 'initdb')))
    .sort((a, b) => Number(b) - Number(a));
  return versions[0] ? path.join(base, versions[0], 'bin') : null;
}

/** Installs missing Debian packages where that is allowed; otherwise says which to ask for. */
export function ensureDebian(wanted) {
  const missing = wanted.filter(({ present }) => !present()).map(({ name }) => name);
  if (missing.length === 0) return;
  const ask = `Ask your administrator to install: ${missing.join(', ')} (Debian packages).`;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    say(ask);
    process.exit(1);
  }
  say(`Installing ${missing.join(', ')} …`);
  // Debian would make and start a cluster of its own; ours lives elsewhere.
  if (!existsSync('/etc/postgresql-common/createcluster.conf')) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] };
  const options = ['-y', '-o', 'Dpkg::Options::=--force-confold', '--no-install-recommends', 'install'];
  if (
    run('apt-get', ['-qq', 'update'], quiet) !== 0 ||
    run('apt-get', ['-qq', ...options, ...missing], quiet) !== 0
  ) {
    say(`That did not work. ${ask}`);
    process.exit(1);
  }
}

export const debian = {
  postgresql: { name: 'postgresql', present: () => postgresBin() !== null },
  chromium: { name: 'chromium', present: () => existsSync('/usr/bin/chromium') },
};

/** Runs `npm ci` when the installed packages are not those of the lock file. */
export function ensurePackages() {
  const lock = path.join(root, 'package-lock.json');
  const mark = path.join(root, 'node_modules', '.outer-cairn-lock');
  const wanted = readFileSync(lock, 'utf8');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted) return;
  say('Installing npm packages …');
  if (run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error', '--include=dev']) !== 0)
    process.exit(1);
  writeFileSync(mark, wanted);
}

/** Bundles the shell (sw/) over the files that were built: what it keeps on a device, by their hashed names. */
async function buildShell() {
  const { build } = await import('esbuild');
  const files = readdirSync(path.join(root, '.next', 'static'), { recursive: true, withFileTypes: true })
    .filter((f) => f.isFile() && !f.name.endsWith('.map'))
    .map((f) => path.join(path.relative(path.join(root, '.next'), f.parentPath), f.name))
    .map((f) => `/_next/${f.split(path.sep).map(encodeURIComponent).join('/')}`)
    .sort();
  await build({
    entryPoints: [path.join(root, 'sw', 'worker.ts')],
    outfile: path.join(root, 'public', 'sw.js'),
    bundle: true,
    minify: true,
    target: 'es2022',
    logLevel: 'warning',
    define: {
      SHELL_FILES: JSON.stringify(files),
      SHELL_VERSION: JSON.stringify(readFileSync(path.join(root, '.next', 'BUILD_ID'), 'utf8')),
    },
  });
}

/** Builds the application when a source is newer than the last build; `begun` is given the process that does it. */
export async function ensureBuild(begun = () => {}) {
  const mark = path.join(root, '.next', 'BUILD_ID');
  const isWhole = existsSync(mark) && existsSync(path.join(root, 'public', 'sw.js'));
  const built = isWhole ? statSync(mark).mtimeMs : 0;
  if (
    newest([
      ...Object.keys(layers).filter((name) => layers[name].built),
      ...Object.keys(rootFiles),
      'next.config.ts',
      'package-lock.json',
    ]) < built
  )
    return;
  say('Building the application …');
  const building = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
    stdio: ['ignore', process.env.CI ? 'inherit' : 'ignore', 'inherit'],
  });
  begun(building);
  const [status] = await once(building, 'close');
  if (status !== 0) process.exit(status ?? 1);
  await buildShell();
}

function newest(names) {
  let latest = 0;
  const visit = (file) => {
    if (!existsSync(file)) return;
    const stat = statSync(file);
    if (stat.isDirectory()) for (const name of readdirSync(file)) visit(path.join(file, name));
    else if (!/\.test\.tsx?$/.test(file)) latest = Math.max(latest, stat.mtimeMs);
  };
  for (const name of names) visit(path.join(root, name));
  return latest;
}
