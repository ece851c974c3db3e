/** What a refused request says, as application/problem+json (RFC 9457). */
export interface ProblemBody {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  /** Stable code a program can rely on. */
  readonly code: string;
  /** What happened, naming field and value. */
  readonly detail: string;
  /** What to do about it. */
  readonly remedy: string;
  readonly field?: string;
  readonly value?: unknown;
  /** Whatever else helps to decide, e.g. the other person's version. */
  readonly extra?: unknown;
}

/** A session that its person, or an administrator, ended from another device. */
export const endedElsewhere = 'session-ended-elsewhere';
