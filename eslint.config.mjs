import next from 'eslint-config-next/core-web-vitals';
import typescript from 'eslint-config-next/typescript';

/** What is rendered; the rules of React follow every function of a file, which takes a third of the time elsewhere. */
const rendered = ['app/**/*.{ts,tsx}', 'ui/**/*.{ts,tsx}'];

/** Layers are fenced by dependency-cruiser.config.mjs; an import it cannot read is refused here. */
const config = [
  {
    ignores: ['.next/**', '.data/**', 'node_modules/**', 'next-env.d.ts', 'test-results/**', 'public/sw.js'],
  },
  ...next.map((part) => (part.rules ? { ...part, files: rendered } : part)),
  ...typescript,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ImportExpression > :not(Literal).source',
          message: 'Name what is imported by a plain string, so that the fence between layers can read it.',
        },
      ],
    },
  },
  {
    files: ['app/**/*.tsx', 'ui/**/*.tsx'],
    ignores: ['ui/shared/PageLink.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          name: 'next/link',
          message: 'Take ui/shared/PageLink: it asks for a page only when it is pointed at.',
        },
      ],
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
];

export default config;
