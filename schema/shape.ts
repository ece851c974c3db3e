import Joi from 'joi';

/**
 * Schemas that cannot part from their types. A field added to a type, made optional or given another
 * literal does not compile until its schema says the same. Joi's own `Joi.object<T, true>` sees missing
 * and extra keys only.
 *
 * @example
 * interface Note { text: string; kind: 'word' | 'time'; at?: number }
 * const note = shape<Note>({ text: must(text()), kind: must(oneOf<Note['kind']>()('word', 'time')), at: number() });
 */

/** A type without its `readonly`, so that lists and records of either kind compare. */
type Frozen<T> = unknown extends T
  ? unknown
  : T extends string | number | boolean | null | undefined
    ? T
    : { readonly [K in keyof T]: Frozen<T[K]> };

declare const described: unique symbol;
declare const required: unique symbol;

/** What a schema accepts, exactly: neither wider nor narrower than the type. */
interface Describes<T> {
  readonly [described]?: (value: Frozen<T>) => Frozen<T>;
}
/** A schema of a value that may be left out. */
export type Shape<T> = Joi.AnySchema & Describes<T> & { readonly [required]?: undefined };
/** A schema of a value that must be there. */
export type Must<T> = Joi.AnySchema & Describes<T> & { readonly [required]: true };
export type ObjectShape<T> = Joi.ObjectSchema<T> & Describes<T> & { readonly [required]?: undefined };

type Fields<T> = {
  readonly [K in keyof T]-?: object extends Pick<T, K> ? Shape<Exclude<T[K], undefined>> : Must<T[K]>;
};

/** An object of exactly these fields. */
export const shape = <T extends object>(fields: Fields<T>): ObjectShape<T> =>
  Joi.object(fields as Joi.SchemaMap) as ObjectShape<T>;

/** An object whose fields are made from the registry that its type is made from. */
export const shapeFrom = <T extends object>(
  fields: Readonly<Record<string, Joi.AnySchema>>,
): ObjectShape<T> => Joi.object(fields as Joi.SchemaMap) as ObjectShape<T>;

export const must = <T>(of: Shape<T>): Must<T> => (of as Joi.Schema).required() as Must<T>;
export const orNull = <T>(of: Shape<T>): Shape<T | null> => (of as Joi.Schema).allow(null) as Shape<T | null>;

/** What is taken for a value that is left out. */
export const orElse = <T>(of: Shape<T>, value: T): Shape<T> =>
  (of as Joi.Schema).default(value as never) as Shape<T>;

export const text = (rule: (s: Joi.StringSchema) => Joi.Schema = (s) => s): Shape<string> =>
  rule(Joi.string()) as Shape<string>;
export const number = (rule: (n: Joi.NumberSchema) => Joi.Schema = (n) => n): Shape<number> =>
  rule(Joi.number()) as Shape<number>;
export const yesNo = (): Shape<boolean> => Joi.boolean() as Shape<boolean>;
/** Names that nobody knows beforehand, with values of one kind. */
export const mapOf = <T>(of: Shape<T>): Shape<Readonly<Record<string, T>>> =>
  Joi.object().pattern(Joi.string().max(60), of as Joi.Schema) as unknown as Shape<
    Readonly<Record<string, T>>
  >;
/** An object of whatever fields. */
export const record = (): Shape<Readonly<Record<string, unknown>>> =>
  Joi.object().unknown() as unknown as Shape<Readonly<Record<string, unknown>>>;
/** Kept as it is, of any kind. */
export const anything = (): Shape<unknown> => Joi.any() as Shape<unknown>;

export const listOf = <T>(
  item: Shape<T>,
  rule: (a: Joi.ArraySchema) => Joi.Schema = (a) => a,
): Shape<readonly T[]> => rule(Joi.array().items(item as Joi.Schema)) as Shape<readonly T[]>;

/** Two of a kind, in their order. */
export const pairOf = <T>(item: Shape<T>): Shape<readonly [T, T]> =>
  Joi.array().ordered((item as Joi.Schema).required(), (item as Joi.Schema).required()) as unknown as Shape<
    readonly [T, T]
  >;

/** One of a few words or numbers: all of the type's, no others. */
export const oneOf =
  <T extends string | number>() =>
  <const V extends readonly T[]>(...values: [Exclude<T, V[number]>] extends [never] ? V : never): Shape<T> =>
    Joi.valid(...values) as unknown as Shape<T>;

type Variants<T, K extends keyof T> = {
  readonly [W in T[K] & string]: Fields<Omit<Extract<T, { readonly [P in K]: W }>, K>>;
};

/** One of several objects, told apart by a word of theirs: `unionBy<Place>()('kind', {file: {}, port: {…}})`. */
export const unionBy =
  <T extends object>() =>
  <K extends keyof T & string>(key: K, variants: Variants<T, K>): Shape<T> =>
    Joi.alternatives().conditional(`.${key}`, {
      switch: Object.entries(variants).map(([word, fields]) => ({
        is: word,
        then: Joi.object({ [key]: Joi.valid(word).required(), ...(fields as Joi.SchemaMap) }),
      })),
      otherwise: Joi.object({ [key]: Joi.valid(...Object.keys(variants)).required() }).unknown(),
    }) as unknown as Shape<T>;

/** A text that only a rule of the trade can tell for one of its words: a unit, a code. */
export const textThat = <T extends string>(is: (value: string) => value is T): Shape<T> =>
  Joi.string().custom((value: string, helpers) =>
    is(value) ? value : helpers.error('any.only'),
  ) as unknown as Shape<T>;

/** A value as the shape has it, fields nobody knows left out; or what is wrong with it. */
export function kept<T>(
  of: Shape<T>,
  value: unknown,
): { readonly value: T | null; readonly error: string | null } {
  const result = (of as Joi.Schema).validate(value, { stripUnknown: true }) as Joi.ValidationResult<T>;
  return result.error ? { value: null, error: result.error.message } : { value: result.value, error: null };
}
