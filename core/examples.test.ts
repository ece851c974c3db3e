import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/** Every `@example expression // value` in core is run: what a docstring shows is what the function does. */
const filesIn = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const full = path.join(folder, entry.name);
    return entry.isDirectory() ? filesIn(full) : /(?<!\.test)\.ts$/.test(entry.name) ? [full] : [];
  });

const examples = filesIn('core').flatMap((file) =>
  [...readFileSync(file, 'utf8').matchAll(/@example (.+?) \/\/ (.+?)(?: \*\/)?$/gm)].map(
    ([, expression, value]) => [file, expression!, value!] as const,
  ),
);

test('there is an example for most of what core reckons', () => expect(examples.length).toBeGreaterThan(60));

test.each(examples)('%s: %s is %s', async (file, expression, value) => {
  // Any module of core by its path.
  // eslint-disable-next-line no-restricted-syntax
  const exported = (await import(`../${file}`)) as Record<string, unknown>;
  const run = (text: string): unknown =>
    new Function(...Object.keys(exported), `return (${text})`)(...Object.values(exported));
  const [found, wanted] = [run(expression), run(value)];
  // As many digits as the example shows.
  if (typeof found === 'number' && typeof wanted === 'number' && Number.isFinite(wanted))
    expect(found).toBeCloseTo(wanted, value.includes('.') ? value.split('.')[1]!.length : 9);
  else expect(JSON.stringify(found)).toBe(JSON.stringify(wanted));
});
