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
  const module = (await import(`../${file}`)) as Record<string, unknown>;
  const run = (text: string): unknown =>
    // eslint-disable-next-line @typescript-eslint/no-implied-eval
    new Function(...Object.keys(module), `return (${text})`)(...Object.values(module));
  const [found, wanted] = [run(expression), run(value)];
  // As many digits as the example shows.
  if (typeof found === 'number' && typeof wanted === 'number' && Number.isFinite(wanted))
    expect(found).toBeCloseTo(wanted, value.includes('.') ? value.split('.')[1]!.length : 9);
  else expect(JSON.stringify(found)).toBe(JSON.stringify(wanted));
});
