import { layers } from './layers.mjs';

/** The layers whose own tests belong to a project, as a pattern. */
const testsOf = (project) => [
  `<rootDir>/{${Object.keys(layers)
    .filter((name) => layers[name].tests === project)
    .join(',')}}/**/*.test.ts`,
];

const base = {
  testEnvironment: 'node',
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  transformIgnorePatterns: ['/node_modules/(?!(uuid|d3-[a-z-]+|internmap)/)'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1' },
  testPathIgnorePatterns: ['/node_modules/', '/.next/', '/.data/', '/e2e/'],
  modulePathIgnorePatterns: ['/.next/', '/.data/'],
  setupFilesAfterEnv: ['<rootDir>/test/patience.ts'],
  // Looked up in the sandbox each of these costs a hundred times what it does: simulations took minutes.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'String',
    'Array',
    'Object',
    'Map',
    'Set',
    'RegExp',
    'Float64Array',
    'Int32Array',
    'Uint8Array',
    'JSON',
  ],
};

const config = {
  testSequencer: '<rootDir>/test/slowFirst.mjs',
  projects: [
    {
      ...base,
      displayName: 'unit',
      testMatch: testsOf('unit'),
    },
    {
      ...base,
      displayName: 'integration',
      testMatch: testsOf('integration'),
      globalSetup: '<rootDir>/test/globalSetup.ts',
    },
  ],
};

export default config;
