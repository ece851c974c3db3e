import { layers, rootFiles, testPackages, testsMayAlso } from './layers.mjs';

/**
 * The fence between layers (decision 1): value, type, dynamic and `require` imports, packages by an
 * allow-list. `npm run lint` runs it; test/fence.test.ts plants violations and sees them found.
 */
const names = Object.keys(layers);
const testFile = '\\.test\\.tsx?$';
const escape = (name) => name.replace(/[/.]/g, '\\$&');
/** A package by its folder, with its declarations beside it; all of a scope for "@scope/". */
const folder = (name) =>
  name.endsWith('/')
    ? `node_modules/${escape(name)}`
    : `node_modules/(${escape(name)}|@types/${escape(name.replace(/^@(.*)\/(.*)$/, '$1__$2'))})/`;
/** What the compiler's own libraries and Jest's globals are declared by. */
const always = ['@types/node', '@types/jest'].map((name) => `node_modules/${escape(name)}/`);

const rulesOf = (name, from, may, packages, node, comment) => [
  {
    name: `${name}-layers`,
    severity: 'error',
    comment,
    from,
    to: { path: `^(${names.filter((other) => !may.includes(other)).join('|')})/` },
  },
  {
    name: `${name}-packages`,
    severity: 'error',
    comment: `${comment} Packages go by the list in layers.mjs.`,
    from,
    to: { path: '^node_modules/', pathNot: [...packages.map(folder), ...always].map((p) => `^${p}`) },
  },
  ...(node
    ? []
    : [
        {
          name: `${name}-node`,
          severity: 'error',
          comment: `${name}/ runs in the browser too: no modules of Node.`,
          from,
          to: { dependencyTypes: ['core'] },
        },
      ]),
];

const config = {
  forbidden: [
    ...Object.entries(layers).flatMap(([name, layer]) => [
      ...rulesOf(
        name,
        { path: `^${name}/`, pathNot: testFile },
        [name, ...layer.may],
        layer.packages,
        layer.node,
        `${name}/ may import ${layer.may.join(', ') || 'no other layer'} (docs/architecture.md, layers).`,
      ),
      ...(layer.tests
        ? rulesOf(
            `${name}-tests`,
            { path: `^${name}/.*${testFile}` },
            [name, ...layer.may, 'test', ...(testsMayAlso[name] ?? [])],
            [...layer.packages, ...testPackages],
            true,
            `Tests of ${name}/ may use what it may, and test/.`,
          )
        : []),
    ]),
    ...Object.entries(rootFiles).flatMap(([file, { may, packages }]) =>
      rulesOf(file, { path: `^${escape(file)}$` }, may, packages, true, `${file} is the framework's entry.`),
    ),
    {
      name: 'tests-are-for-tests',
      severity: 'error',
      comment: 'A test file is imported by nobody.',
      from: {},
      to: { path: testFile },
    },
    {
      name: 'no-circles',
      severity: 'error',
      comment: 'Two files that need each other are one idea, or need a third.',
      from: {},
      to: { circular: true },
    },
    {
      name: 'resolvable',
      severity: 'error',
      comment: 'An import that cannot be resolved cannot be judged.',
      from: {},
      to: { couldNotResolve: true },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.json', '.d.ts', '.css', '.sql', '.svg'],
    },
  },
};

export default config;
