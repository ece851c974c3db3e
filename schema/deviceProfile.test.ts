import { readFileSync } from 'node:fs';
import Ajv from 'ajv';
import { profiles } from '@/catalogue/profiles';
import { kept } from './shape';
import { deviceProfile } from './deviceProfile';

/** The published JSON Schema and the one the application goes by: another implementation judges the same. */
const published = new Ajv({ allErrors: false, strict: false }).compile(
  JSON.parse(readFileSync('docs/schemas/device-profile.schema.json', 'utf8')) as object,
);
const whole = () => JSON.parse(JSON.stringify(profiles.find((p) => p.code === 'quern-th3'))) as Loose;
type Loose = Record<string, unknown> & {
  outputs: (Record<string, unknown> & { field: Record<string, unknown> })[];
  leads: Record<string, unknown>[];
  connection: Record<string, unknown>;
};
const ours = (profile: unknown): boolean => {
  const { error } = deviceProfile.validate(profile, { convert: false });
  return error === undefined;
};

test.each(profiles.map((p) => [p.code, p] as const))('%s that ships is valid by both', (_, profile) => {
  expect(published(profile)).toBe(true);
  expect(ours(profile)).toBe(true);
});

test.each<[string, (p: Loose) => unknown]>([
  ['no name', (p) => delete p.name],
  ['an unknown field', (p) => (p.surprise = 1)],
  ['an unknown field of an output', (p) => (p.outputs[0]!.surprise = 1)],
  ['a revision of 0', (p) => (p.revision = 0)],
  ['a revision of text', (p) => (p.revision = '1')],
  ['a code with a blank', (p) => (p.code = 'quern th3')],
  ['another kind', (p) => (p.kind = 'logger')],
  ['a kind nobody knows', (p) => (p.kind = 'toaster')],
  ['a register without its kind', (p) => delete p.outputs[0]!.field.kind],
  ['an output on a lead, with a register', (p) => (p.outputs[0]!.field.kind = 'lead')],
  ['a connection nobody knows', (p) => (p.connection.kind = 'smoke-signals')],
  ['a lead without a signal', (p) => delete p.leads[0]!.signal],
  ['polarity by letters', (p) => (p.leads[0]!.signal = 'A')],
  ['no outputs', (p) => (p.outputs = [])],
  ['a register beyond all', (p) => (p.outputs[0]!.field.address = 70_000)],
  ['half a register', (p) => (p.outputs[0]!.field.address = 0.5)],
  ['a form of number nobody knows', (p) => (p.outputs[0]!.field.type = 'int24')],
  ['a word order nobody knows', (p) => (p.outputs[0]!.field.wordOrder = 'middle-first')],
  ['a range of three', (p) => (p.outputs[0]!.range = [0, 1, 2])],
  ['an accuracy below 0', (p) => (p.outputs[0]!.accuracy = { absolute: -1, ofReading: 0, ofRange: 0 })],
  ['a share of 2 %, said as 2', (p) => (p.outputs[0]!.accuracy = { absolute: 0, ofReading: 2, ofRange: 0 })],
  ['a resolution of 0', (p) => (p.outputs[0]!.resolution = 0)],
  ['a step nobody knows', (p) => (p.outputs[0]!.conversion = [{ step: 'wish', by: 1 }])],
  [
    'a step with fields of another',
    (p) => (p.outputs[0]!.conversion = [{ step: 'divide', gain: 1, offset: 0 }]),
  ],
  ['a divisor of 0', (p) => (p.outputs[0]!.conversion = [{ step: 'divide', by: 0 }])],
  ['a table of one point', (p) => (p.outputs[0]!.conversion = [{ step: 'table', x: [1], y: [1] }])],
])('%s is refused by both', (_name, spoil) => {
  const profile = whole();
  spoil(profile);
  expect(published(profile)).toBe(false);
  expect(ours(profile)).toBe(false);
});

test('hostile JSON does not come through', () => {
  const polluted = JSON.parse(`{"__proto__": {"admin": true}, ${JSON.stringify(whole()).slice(1)}`) as object;
  // Ours reads past it, and nothing of it is kept.
  const { value } = kept(deviceProfile, polluted);
  expect(Object.keys(value ?? {})).not.toContain('__proto__');
  expect(value).not.toHaveProperty('admin');
  expect(published(polluted)).toBe(false);
  expect(({} as { admin?: boolean }).admin).toBeUndefined();
  let deep: unknown = 1;
  for (let i = 0; i < 5000; i++) deep = [deep];
  expect(ours({ ...whole(), leads: deep })).toBe(false);
  expect(kept(deviceProfile, null).error).not.toBeNull();
});
