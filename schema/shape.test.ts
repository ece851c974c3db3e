import { shape, must, text, number, oneOf, listOf, orNull, unionBy, yesNo } from './shape';
import type { QualityThresholds } from '@/core/quality/tests';
import { defaultThresholds } from '@/core/quality/thresholds';
import { qualityThresholds } from './pieces';

/**
 * What must not compile is marked so; the step "types" fails where one of these compiles after all,
 * and this test runs what does.
 */
interface Note {
  readonly words: string;
  readonly kind: 'word' | 'time';
  readonly at?: number;
  readonly list: readonly { readonly value: number | null }[];
}
const kind = oneOf<Note['kind']>()('word', 'time');
const list = listOf(shape<Note['list'][number]>({ value: must(orNull(number())) }));
const note = shape<Note>({ words: must(text()), kind: must(kind), at: number(), list: must(list) });
type Place = { readonly kind: 'file' } | { readonly kind: 'port'; readonly number: number };

export const refused = () => [
  // @ts-expect-error a field of the type without a schema
  shape<Note>({ words: must(text()), kind: must(kind), list: must(list) }),
  // @ts-expect-error a field that the type does not have
  shape<Note>({ words: must(text()), kind: must(kind), at: number(), list: must(list), more: text() }),
  // @ts-expect-error the type asks for it, the schema does not
  shape<Note>({ words: text(), kind: must(kind), at: number(), list: must(list) }),
  // @ts-expect-error the schema asks for it, the type does not
  shape<Note>({ words: must(text()), kind: must(kind), at: must(number()), list: must(list) }),
  // @ts-expect-error another kind of value
  shape<Note>({ words: must(number()), kind: must(kind), at: number(), list: must(list) }),
  // @ts-expect-error a schema that lets through more than the type
  shape<Note>({ words: must(text()), kind: must(text()), at: number(), list: must(list) }),
  // @ts-expect-error a literal that is missing
  oneOf<Note['kind']>()('word'),
  // @ts-expect-error a literal that the type does not have
  oneOf<Note['kind']>()('word', 'time', 'place'),
  // @ts-expect-error items of another kind
  shape<Pick<Note, 'list'>>({ list: must(listOf(text())) }),
  // @ts-expect-error null is in the type and not in the schema
  shape<{ value: number | null }>({ value: must(number()) }),
  // @ts-expect-error null is in the schema and not in the type
  shape<{ value: number }>({ value: must(orNull(number())) }),
  // @ts-expect-error a kind without its fields
  unionBy<Place>()('kind', { file: {}, port: {} }),
  // @ts-expect-error a kind that is missing
  unionBy<Place>()('kind', { file: {} }),
];

const fails = (schema: { validate(v: unknown): { error?: Error } }, value: unknown) =>
  schema.validate(value).error?.message ?? null;

test('what compiles refuses what the type does not hold, and says where', () => {
  const good = { words: 'a', kind: 'time', list: [{ value: null }] };
  expect(fails(note, good)).toBeNull();
  expect(fails(note, { ...good, kind: 'place' })).toContain('must be one of [word, time]');
  expect(fails(note, { ...good, list: [{ value: 'x' }] })).toContain('"list[0].value"');
  expect(fails(note, { ...good, list: undefined })).toContain('"list" is required');
  expect(fails(shape<{ there: boolean }>({ there: must(yesNo()) }), { there: 'perhaps' })).toContain(
    'boolean',
  );
});

test('objects told apart by their kind: the sentence is about the kind that was meant', () => {
  const place = shape<{ place: Place }>({
    place: must(unionBy<Place>()('kind', { file: {}, port: { number: must(number()) } })),
  });
  expect(fails(place, { place: { kind: 'port', number: 4 } })).toBeNull();
  expect(fails(place, { place: { kind: 'port' } })).toContain('"place.number" is required');
  expect(fails(place, { place: { kind: 'sea' } })).toContain('"place.kind" must be one of [file, port]');
  expect(fails(place, { place: { kind: 'file', number: 4 } })).toContain('"place.number" is not allowed');
});

test('a schema made from the registry of quality tests asks for every test and every limit', () => {
  const whole: QualityThresholds = defaultThresholds('airTemperature');
  expect(fails(qualityThresholds, whole)).toBeNull();
  for (const [name, limits] of Object.entries(whole)) {
    expect(fails(qualityThresholds, { ...whole, [name]: undefined })).toContain(`"${name}" is required`);
    expect(fails(qualityThresholds, { ...whole, [name]: null })).toBeNull();
    for (const field of Object.keys((limits as object | null) ?? {}))
      expect(
        fails(qualityThresholds, { ...whole, [name]: { ...(limits as object), [field]: 'x' } }),
      ).toContain(`"${name}.${field}"`);
  }
});
