import type { InConflict } from '@/contract/fieldWrites';
import type { ProblemBody } from '@/contract/problem';

interface ProblemParts {
  readonly code: string;
  readonly status: number;
  readonly title: string;
  readonly detail: string;
  readonly remedy: string;
  readonly field?: string;
  readonly value?: unknown;
  readonly extra?: unknown;
}

/** Something a person can cause and mend. Thrown by use-cases, answered as problem+json. */
export class Problem extends Error {
  constructor(readonly parts: ProblemParts) {
    super(`${parts.detail} ${parts.remedy}`);
  }
  body(): ProblemBody {
    return { type: `urn:outer-cairn:problem:${this.parts.code}`, ...this.parts };
  }
}

export const notFound = (what: string, value: string): Problem =>
  new Problem({
    code: 'not-found',
    status: 404,
    title: 'Not found',
    value,
    detail: `There is no ${what} "${value}".`,
    remedy: 'Go back to the Round and open it from there.',
  });

/** A field that cannot stand as entered. */
export const badField = (
  code: string,
  field: string,
  value: unknown,
  detail: string,
  remedy: string,
  extra?: unknown,
): Problem =>
  new Problem({ code, status: 422, title: 'Cannot be saved like this', field, value, detail, remedy, extra });

/** Something else is in the way just now. */
export const inTheWay = (code: string, detail: string, remedy: string, extra?: unknown): Problem =>
  new Problem({ code, status: 409, title: 'Not now', detail, remedy, extra });

/** What is there already, for a field write that is refused for it: the other version. */
export const conflictWith = (
  by: string,
  says: string,
  from: Date,
  until: Date | null = null,
): InConflict => ({
  there: { by, says, from: from.toISOString(), until: until?.toISOString() ?? null },
});

/** Instants are taken from 1600 to 2300: beyond, nothing was measured and nobody plans. */
const [earliest, latest] = [Date.UTC(1600, 0), Date.UTC(2300, 0)];

/** An instant from text; refuses what is none, 30 February among them. */
export function instantOf(field: string, text: string): Date {
  const ms = Date.parse(text);
  // A day a month does not have slides into the next one: the text then says another day.
  const [, day] = /^\d{4}-\d\d-(\d\d)/.exec(text) ?? [];
  const slid = day !== undefined && Number(day) > daysOf(text);
  if (!Number.isFinite(ms) || slid || ms < earliest || ms > latest)
    throw badField(
      'bad-time',
      field,
      text.slice(0, 60),
      `"${text.slice(0, 60)}" is not a usable time.`,
      'Use a form like 2026-03-01T09:30Z.',
    );
  return new Date(ms);
}

const daysOf = (text: string): number =>
  new Date(Date.UTC(Number(text.slice(0, 4)), Number(text.slice(5, 7)), 0)).getUTCDate();
