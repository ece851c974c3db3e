// Database, practice stand and application together, as the demo and the end-to-end tests run them.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { answers, pause, reapStale, start, stop } from './children.mjs';
import { root, say } from './machine.mjs';
import { copyCluster, freePort, startPostgres } from './postgres.mjs';

const tsx = ['--import', 'tsx'];

const usualDemoPort = 3700;
/** Raised where the practice stand of an earlier release kept what this one cannot read: then the demo starts over. */
const standFormat = '9';

/** The ports of a data folder stay the same, since addresses of loggers are on file. */
async function portsOf(kind, count, lane) {
  const file = path.join(root, '.data', `${kind}-ports.json`);
  if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8'));
  mkdirSync(path.dirname(file), { recursive: true });
  const web = (kind === 'demo' && (await freePort(usualDemoPort).catch(() => null))) || (await freePort());
  // A run of neighbouring ports, well below the range the system hands out by itself.
  const lab = 20_000 + (Math.floor(Math.random() * 80) + 80 * lane) * 40;
  const ports = { web, lab, last: lab + count };
  writeFileSync(file, JSON.stringify(ports));
  return ports;
}

/** Ends an application and a stand that somebody else started and left behind. */
export function reapStack(kind) {
  reapStale(`${kind}-app`, 'serve.mjs');
  reapStale(`${kind}-simulator`, 'simulator/main.ts');
}

/**
 * Its database, with what was lived through. `kind` names the data it keeps. Stacks that run at the same time take
 * different lanes (0 to 3). `only`: codes of the stations that are lived through, all when left out.
 */
async function prepare(kind, { fresh = false, lane = 0, only = '' }) {
  reapStack(kind);
  const seeded = path.join(root, '.data', `${kind}-seeded`);
  const of = existsSync(seeded) ? readFileSync(seeded, 'utf8').split(' ')[0] : standFormat;
  if (of !== standFormat) say('The demo is that of an earlier release: it starts over.');
  const anew = fresh || of !== standFormat;
  if (anew) forget(kind);
  const ports = await portsOf(kind, 38, lane);
  const postgres = await startPostgres(kind, { fresh: anew });
  const database = 'outer_cairn';
  const host = ports.host ?? '127.0.0.1';
  const env = {
    OUTER_CAIRN_ROOT: root,
    DATABASE_URL: postgres.appUrl(database),
    PORT: String(ports.web),
    PUBLIC_ORIGIN: `http://127.0.0.1:${ports.web}`,
    DEVICE_ALLOW: `${host}:${ports.lab}-${ports.last}`,
    PRACTICE_STAND: `${host}:${ports.lab}`,
    // Where the stand receives messages (simulator/sinks.ts).
    SMTP_URL: `smtp://${host}:${ports.lab + 35}`,
    WEBHOOK_ALLOW: `${host}:${ports.lab + 36}`,
    NODE_ENV: 'production',
  };
  const ownerEnv = {
    SUPER_URL: postgres.superUrl(),
    OWNER_URL: postgres.ownerUrl(database),
    OWNER_PASSWORD: postgres.secrets.owner,
    APP_PASSWORD: postgres.secrets.app,
    DATABASE_NAME: database,
  };
  await script('scripts/migrate.ts', [], { ...env, ...ownerEnv });
  if (!existsSync(seeded)) {
    await script(
      'scripts/seed.ts',
      [stateOf(kind), String(ports.lab), ...only.split(' ').filter(Boolean)],
      env,
    );
    writeFileSync(seeded, `${standFormat} ${new Date().toISOString()}`);
  }
  return { ports, host, postgres, env };
}

const stateOf = (kind) => path.join(root, '.data', `${kind}-simulator.json`);

function forget(kind) {
  for (const name of ['ports.json', 'simulator.json', 'seeded'])
    rmSync(path.join(root, '.data', `${kind}-${name}`), { force: true });
}

/** Starts all three, on data of its own; `more`: further environment of the application. */
export async function startStack(kind, { fresh = false, lane = 0, only = '', more = {} } = {}) {
  const { ports, host, postgres, env } = await prepare(kind, { fresh, lane, only });
  const simulator = start(
    `${kind}-simulator`,
    process.execPath,
    [...tsx, 'simulator/main.ts', stateOf(kind), String(ports.lab), host],
    env,
  );
  const lab = `http://${host}:${ports.lab}`;
  await answers(`${lab}/lab`, simulator);
  const app = await startApp(kind, { ...env, ...more });
  return {
    ports,
    postgres,
    env,
    app,
    startApp: () => startApp(kind, { ...env, ...more }),
    simulator,
    url: env.PUBLIC_ORIGIN,
    lab,
  };
}

/**
 * Lives through the demo once, for several stacks that begin alike; none of them runs yet. Their devices have the same
 * ports, at addresses of their own.
 */
export async function seedAlike(kinds) {
  const [first, ...others] = kinds;
  const { ports, postgres } = await prepare(first, { fresh: true });
  postgres.stop();
  for (const [i, kind] of others.entries()) {
    reapStack(kind);
    forget(kind);
    copyCluster(first, kind);
    const host = `127.0.0.${i + 2}`;
    for (const file of ['simulator.json', 'seeded'])
      cpSync(path.join(root, '.data', `${first}-${file}`), path.join(root, '.data', `${kind}-${file}`));
    writeFileSync(
      path.join(root, '.data', `${kind}-ports.json`),
      JSON.stringify({ ...ports, web: await freePort(), host }),
    );
    const copied = await startPostgres(kind);
    try {
      for (const [table, column] of [
        ['logger', 'address'],
        ['port', 'gateway_address'],
        ['reference_instrument', 'link'],
        ['alarm_receiver', 'address'],
      ])
        copied.run(
          'outer_cairn',
          `update ${table} set ${column} = replace(${column}, '127.0.0.1:', '${host}:')`,
        );
    } finally {
      copied.stop();
    }
  }
}

/**
 * An application on an empty database of its own, beside whatever runs; `welcome` is where its first account
 * is made, `deviceAllow` which devices it may dial.
 */
export async function startEmptyApp(kind, deviceAllow = '') {
  const postgres = await startPostgres(kind, { fresh: true });
  const database = 'outer_cairn';
  const port = await freePort();
  const env = {
    OUTER_CAIRN_ROOT: root,
    DATABASE_URL: postgres.appUrl(database),
    PORT: String(port),
    PUBLIC_ORIGIN: `http://127.0.0.1:${port}`,
    DEVICE_ALLOW: deviceAllow,
    NODE_ENV: 'production',
  };
  await script('scripts/migrate.ts', [], {
    ...env,
    SUPER_URL: postgres.superUrl(),
    OWNER_URL: postgres.ownerUrl(database),
    OWNER_PASSWORD: postgres.secrets.owner,
    APP_PASSWORD: postgres.secrets.app,
  });
  const app = await startApp(kind, env);
  const said = readFileSync(path.join(root, '.data', `${kind}-app.log`), 'utf8');
  return {
    url: env.PUBLIC_ORIGIN,
    welcome: /http:\S+\/welcome#\S+/.exec(said)[0],
    async stop() {
      await stop(app);
      postgres.stop();
    },
  };
}

/** Kills a running application without warning, as a test of what it leaves behind; returns how to start it again. */
export async function killApp(kind) {
  const pidFile = path.join(root, '.data', `${kind}-app.pid`);
  const pid = Number(readFileSync(pidFile, 'utf8'));
  const env = Object.fromEntries(
    readFileSync(`/proc/${pid}/environ`, 'utf8')
      .split('\0')
      .filter((line) => line.includes('='))
      .map((line) => [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)]),
  );
  process.kill(pid, 'SIGKILL');
  // Whoever started it takes its note away.
  while (existsSync(pidFile)) await pause(50);
  return () => startApp(kind, env);
}

async function startApp(kind, env) {
  // A debugger asked for by SIGUSR1 takes a free port: stacks run side by side.
  const app = start(`${kind}-app`, process.execPath, ['--inspect-port=0', 'scripts/serve.mjs'], env);
  await answers(`${env.PUBLIC_ORIGIN}/api/health`, app);
  return app;
}

async function script(file, args, env) {
  const child = spawn(process.execPath, [...tsx, file, ...args], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: 'inherit',
  });
  const [status] = await once(child, 'exit');
  if (status !== 0) throw new Error(`${file} failed`);
}
