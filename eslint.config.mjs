import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

/**
 * Import zones: data flows one way. Anything across layers is imported as "@/layer/…", so a rule on
 * the specifier is a rule on the layer; type imports count too.
 */
const layers = [
  'app',
  'ui',
  'contract',
  'server',
  'db',
  'devices',
  'core',
  'catalogue',
  'simulator',
  'scripts',
  'bench',
];
const allowed = {
  app: ['ui', 'contract', 'server', 'core', 'db'],
  ui: ['contract', 'core'],
  contract: ['core'],
  server: ['contract', 'db', 'devices', 'core', 'catalogue'],
  db: ['core'],
  devices: ['core'],
  simulator: ['core', 'catalogue'],
  catalogue: ['core'],
  core: [],
};
const frameworks = ['react', 'react-dom', 'next', '@mui/*', 'sequelize', 'pg', 'node:*', 'fs', 'http'];

const zones = Object.entries(allowed).map(([layer, may]) => ({
  files: [`${layer}/**/*.{ts,tsx}`],
  ignores: ['**/*.test.ts', '**/*.test.tsx'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          ...layers
            .filter((other) => other !== layer && !may.includes(other))
            .map((other) => ({
              group: [`@/${other}/*`, `@/${other}/**`, `**/../${other}/**`],
              message: `${layer}/ may not import from ${other}/ (docs/architecture.md, layers).`,
            })),
          ...(layer === 'core'
            ? [{ group: frameworks.flatMap((f) => [f, `${f}/**`]), message: 'core/ is pure.' }]
            : []),
          ...(layer === 'ui'
            ? [{ group: ['sequelize', 'pg', 'node:*'], message: 'ui/ runs in the browser.' }]
            : []),
        ],
      },
    ],
  },
}));

const config = [
  { ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**'] },
  ...next,
  ...typescript,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
    },
  },
  ...zones,
];

export default config;
