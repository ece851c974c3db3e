import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { layers } from '../layers.mjs';
import { expectDocTable } from './docTable';

interface Layer {
  readonly what: string;
  readonly may: readonly string[];
  readonly packages: readonly string[];
}

/**
 * The fence between layers, tried on planted code: in every layer one file for each way of importing,
 * which imports from every other layer and from packages that only some layers may use. The fence has
 * to mind exactly what the list does not allow.
 */
const all = layers as unknown as Readonly<Record<string, Layer>>;
const names = Object.keys(all);
const packages = ['react', 'sequelize', 'joi', 'jstat', 'left-alone'];
const ways: Readonly<Record<string, (from: string, i: number) => string>> = {
  value: (from, i) => `import { one as one${i} } from '${from}';\nexport const value${i} = one${i};`,
  type: (from, i) => `import type { One as One${i} } from '${from}';\nexport type Type${i} = One${i};`,
  inline: (from, i) => `export type Inline${i} = import('${from}').One;`,
  dynamic: (from, i) => `export const later${i} = () => import('${from}');`,
  reexport: (from, i) => `export { one as again${i} } from '${from}';`,
};
const place = mkdtempSync(path.join(tmpdir(), 'fence-'));
const plant = (file: string, text: string) => {
  mkdirSync(path.dirname(path.join(place, file)), { recursive: true });
  writeFileSync(path.join(place, file), text);
};
const one = 'export const one = 1;\nexport type One = number;\n';
let found: Set<string>;

beforeAll(() => {
  for (const name of names) plant(`${name}/one.ts`, one);
  plant('core/thing.test.ts', one);
  for (const name of packages) {
    plant(`node_modules/${name}/index.js`, 'module.exports = { one: 1 };');
    plant(`node_modules/${name}/index.d.ts`, one);
    plant(
      `node_modules/${name}/package.json`,
      JSON.stringify({ name, main: 'index.js', types: 'index.d.ts' }),
    );
  }
  for (const name of names)
    for (const [way, line] of Object.entries(ways)) {
      const others = names.filter((other) => other !== name).map((other) => `@/${other}/one`);
      plant(`${name}/${way}.ts`, [...others, ...packages].map(line).join('\n'));
    }
  plant('core/usesNode.ts', "import { readFileSync } from 'node:fs';\nexport const read = readFileSync;");
  plant('core/usesTest.ts', "import { one } from './thing.test';\nexport const two = one;");
  plant('core/nowhere.ts', "import { one } from './nowhereAtAll';\nexport const two = one;");
  plant('ui/ring.ts', "import { b } from './ringBack';\nexport const a = () => b;");
  plant('ui/ringBack.ts', "import { a } from './ring';\nexport const b = () => a;");
  plant(
    'core/own.test.ts',
    "import { one } from '@/server/one';\nimport { one as two } from '@/test/one';\nexport const t = [one, two];",
  );
  writeFileSync(path.join(place, 'tsconfig.json'), readFileSync('tsconfig.json', 'utf8'));
  const { stdout, stderr } = spawnSync(
    process.execPath,
    [
      path.resolve('node_modules/dependency-cruiser/bin/dependency-cruise.mjs'),
      '--config',
      path.resolve('dependency-cruiser.config.mjs'),
      '--output-type',
      'json',
      ...names,
    ],
    { cwd: place, encoding: 'utf8', maxBuffer: 1 << 28 },
  );
  if (!stdout) throw new Error(stderr);
  const told = JSON.parse(stdout) as {
    summary: { violations: { from: string; to: string; rule: { name: string } }[] };
  };
  found = new Set(told.summary.violations.map((v) => `${v.rule.name} ${v.from} ${v.to}`));
}, 240_000);
afterAll(() => rmSync(place, { recursive: true, force: true }));

test.each(names)('%s/: of the other layers it may import what the list says, in every way', (name) => {
  for (const way of Object.keys(ways))
    for (const other of names.filter((o) => o !== name))
      expect([way, other, found.has(`${name}-layers ${name}/${way}.ts ${other}/one.ts`)]).toEqual([
        way,
        other,
        !all[name]!.may.includes(other),
      ]);
});

test.each(names)('%s/: of the packages too', (name) => {
  for (const way of Object.keys(ways))
    for (const other of packages)
      expect([
        way,
        other,
        [...found].some((f) => f.startsWith(`${name}-packages ${name}/${way}.ts node_modules/${other}/`)),
      ]).toEqual([way, other, !all[name]!.packages.includes(other)]);
});

test('modules of Node, test files, circles and what is not there', () => {
  expect(found).toContain('core-node core/usesNode.ts fs');
  expect(found).toContain('tests-are-for-tests core/usesTest.ts core/thing.test.ts');
  expect([...found].some((f) => f.startsWith('resolvable core/nowhere.ts'))).toBe(true);
  expect([...found].some((f) => f.startsWith('no-circles ui/ring'))).toBe(true);
  expect(found).toContain('core-tests-layers core/own.test.ts server/one.ts');
  expect(found).not.toContain('core-tests-layers core/own.test.ts test/one.ts');
});

test('an import that the fence cannot read is refused by lint', () => {
  const { status, stdout } = spawnSync(
    process.execPath,
    ['node_modules/eslint/bin/eslint.js', '--stdin', '--stdin-filename', 'scripts/planted.mjs'],
    { input: 'export const later = (name) => import(`../server/${name}`);\n', encoding: 'utf8' },
  );
  expect(stdout).toContain('no-restricted-syntax');
  expect(status).toBe(1);
});

test('docs/architecture.md shows the list as it is', () => {
  expectDocTable(
    'docs/architecture.md',
    'layers',
    ['layer', 'what it holds', 'may import'],
    Object.entries(all).map(([name, { what, may }]) => [`\`${name}/\``, what, may.join(', ') || 'nothing']),
  );
});
