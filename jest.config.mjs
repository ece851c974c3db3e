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
  transformIgnorePatterns: ['/node_modules/(?!(uuid)/)'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1' },
  testPathIgnorePatterns: ['/node_modules/', '/.next/', '/.data/', '/e2e/'],
  modulePathIgnorePatterns: ['/.next/', '/.data/'],
  setupFilesAfterEnv: ['<rootDir>/test/patience.ts'],
};

const config = {
  projects: [
    {
      ...base,
      displayName: 'unit',
      testMatch: ['<rootDir>/{core,contract,devices,simulator,catalogue,ui}/**/*.test.ts'],
    },
    {
      ...base,
      displayName: 'integration',
      testMatch: ['<rootDir>/{server,db,app,scripts}/**/*.test.ts'],
      globalSetup: '<rootDir>/test/globalSetup.ts',
    },
  ],
};

export default config;
