/**
 * The layers of the code, from the outside in: what each may import of the others and of packages.
 * The one list: the import fence (dependency-cruiser.config.mjs), Jest's projects, the build's
 * freshness and the table in docs/architecture.md go by it.
 *
 * `may`: other layers. `packages`: npm packages, a scope ending in "/" for all of it. `node`: whether
 * Node's own modules may be used. `built`: part of the production build. `tests`: the Jest project that
 * runs the layer's own tests, which may also use `test/`, what it may use, and `testPackages`.
 */
export const layers = {
  app: {
    what: 'routes: pages and route handlers. Authenticate, validate, one use-case, render.',
    may: ['ui', 'contract', 'server', 'core', 'db'],
    packages: ['react', 'next', '@mui/', '@fontsource/', 'joi'],
    node: true,
    built: true,
    tests: 'integration',
  },
  ui: {
    what: 'React components, a folder a view; shared/ holds theme, cairn, sums, the one fetch.',
    may: ['contract', 'core', 'line'],
    packages: [
      'react',
      'react-dom',
      'next',
      '@mui/',
      '@tanstack/react-query',
      'react-hook-form',
      'recharts',
      'd3-scale',
      'exifr',
      'fast-deep-equal',
      'idb',
      'luxon',
      'uuid',
    ],
    node: false,
    built: true,
    tests: 'unit',
  },
  sw: {
    what: 'the shell: a service worker that draws what the device holds where the server cannot be reached.',
    may: ['contract', 'ui'],
    packages: [],
    node: false,
    built: true,
    tests: 'unit',
  },
  contract: {
    what: 'what crosses the wire: requests with their schemas, answers, who may what.',
    may: ['schema', 'core'],
    packages: ['joi'],
    node: false,
    built: true,
    tests: 'unit',
  },
  schema: {
    what: 'schemas bound to their types, for the wire and for what is stored.',
    may: ['core'],
    packages: ['joi'],
    node: false,
    built: true,
    tests: 'unit',
  },
  server: {
    what: 'use-cases: what a person does. No HTTP, no React.',
    may: ['contract', 'db', 'devices', 'line', 'core', 'catalogue'],
    packages: [
      'sequelize',
      'luxon',
      'nodemailer',
      'papaparse',
      'pino',
      'sharp',
      'uuid',
      '@node-rs/argon2',
      'rate-limiter-flexible',
    ],
    node: true,
    built: true,
    tests: 'integration',
  },
  db: {
    what: "tables, migrations, the record's bulk paths.",
    may: ['schema', 'core'],
    packages: ['graphile-worker', 'sequelize', 'pg', 'pg-copy-streams', 'umzug'],
    node: true,
    built: true,
    tests: 'integration',
  },
  devices: {
    what: 'the Modbus line, the drivers of loggers, addresses.',
    may: ['schema', 'line', 'core'],
    packages: ['joi'],
    node: true,
    built: true,
    tests: 'unit',
  },
  line: {
    what: 'half-duplex lines and what is said on them, on the server and in the browser alike.',
    may: ['core'],
    packages: [],
    node: false,
    built: true,
    tests: 'unit',
  },
  catalogue: {
    what: 'device profiles that ship with the application.',
    may: ['core'],
    packages: [],
    node: false,
    built: true,
    tests: 'unit',
  },
  core: {
    what: "the trade's arithmetic, pure.",
    may: [],
    packages: ['culori', 'jstat', 'luxon', 'papaparse', 'simple-statistics'],
    node: false,
    built: true,
    tests: 'unit',
  },
  simulator: {
    what: 'stand-in hardware, its own process.',
    may: ['core', 'catalogue'],
    packages: ['smtp-server'],
    node: true,
    tests: 'unit',
  },
  scripts: {
    what: 'start, seed, test, the command line.',
    may: ['server', 'contract', 'db', 'devices', 'core', 'catalogue', 'simulator', 'test'],
    packages: ['esbuild', 'pg', 'next', 'sharp'],
    node: true,
    tests: 'integration',
  },
  benchmarks: {
    what: 'speed beside yardsticks, `npm run bench`.',
    may: ['server', 'contract', 'db', 'devices', 'line', 'core', 'catalogue', 'simulator', 'scripts', 'test'],
    packages: ['@playwright/test', 'esbuild', 'mathjs', 'pg', 'sharp'],
    node: true,
  },
  test: {
    what: 'what several tests share.',
    may: ['app', 'contract', 'server', 'db', 'devices', 'line', 'core', 'catalogue', 'simulator', 'scripts'],
    packages: ['@jest/test-sequencer', 'pg', 'next'],
    node: true,
    tests: 'unit',
  },
  e2e: {
    what: 'the journeys in Chromium.',
    may: ['contract', 'core', 'scripts', 'simulator', 'test'],
    packages: ['@playwright/test', '@axe-core/playwright', 'ws', 'uuid'],
    node: true,
  },
};

/** What tests may use beside the packages of their layer: other implementations to compare with. */
export const testPackages = [
  'ajv',
  'crc',
  'exifr',
  'fake-indexeddb',
  'fast-check',
  'mathjs',
  'modbus-serial',
  'pg',
  'psychrolib',
  'uuid',
];

/** Layers whose tests start or read more than the layer may use: the stand beside a driver, the catalogue. */
export const testsMayAlso = {
  core: ['catalogue'],
  schema: ['catalogue'],
  devices: ['simulator'],
  server: ['simulator', 'scripts'],
};

/** Files outside any layer that the framework asks for, and what each may import. */
export const rootFiles = {
  'instrumentation.ts': { may: ['server'], packages: [] },
  'proxy.ts': { may: [], packages: ['next'] },
};

/** How the fence is asked about the whole tree. */
export const fenceArguments = [
  'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
  '--config',
  'dependency-cruiser.config.mjs',
  ...Object.keys(layers),
  ...Object.keys(rootFiles),
];
