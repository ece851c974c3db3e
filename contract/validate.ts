import type Joi from 'joi';
import type { ProblemBody } from './problem';

type Judged<Body> = { readonly value: Body } | { readonly problem: ProblemBody };

/** What was sent, as its schema has it, or what is wrong with the first field that is not. */
export function judgeBody<Body>(schema: Joi.ObjectSchema<Body>, body: unknown): Judged<Body> {
  const { error, value } = schema.validate(body, { abortEarly: true, errors: { wrap: { label: false } } });
  if (!error) return { value: value as Body };
  const [first] = error.details;
  const field = first!.path.join('.');
  const missing = first!.type === 'any.required' || first!.type === 'string.empty';
  const shown = first!.context?.value as unknown;
  const code = missing ? 'missing' : 'invalid';
  return {
    problem: {
      type: `urn:outer-cairn:problem:${code}`,
      title: 'Cannot be saved like this',
      status: 422,
      code,
      field,
      value: shown === undefined ? null : sayable(shown),
      detail: missing
        ? `${field} is missing.`
        : `${shortened(first!.message, 300)}${shown === undefined ? '' : ` (it is ${String(JSON.stringify(shown)).slice(0, 60)})`}.`,
      remedy: missing ? 'Fill it in.' : 'Correct it and send again.',
    },
  };
}

const shortened = (text: string, most: number): string =>
  text.length > most ? `${text.slice(0, most)}…` : text;

/** A value as an answer may hold it: no number that JSON lacks, no text without end. */
const sayable = (value: unknown): unknown =>
  typeof value === 'number' && !Number.isFinite(value)
    ? String(value)
    : typeof value === 'string'
      ? shortened(value, 500)
      : value;
