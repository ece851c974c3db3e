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
