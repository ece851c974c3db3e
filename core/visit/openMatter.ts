import type { StoneName } from '../trust/finding';
import type { Milliseconds } from '../time';

/** Kinds of what can stay open at a station when somebody goes. */
export type OpenKind =
  'leads-off' | 'line-held' | 'settings-staged' | 'check-open' | 'bench-open' | 'write-unknown' | 'put-back';

/** Something at a station that somebody began and nobody ended. */
export interface OpenMatter {
  readonly kind: OpenKind;
  /** Id of what it is about: a sensor, a line, a channel or the logger, a check, a device action, a line of the checklist. */
  readonly subject: string;
  /** Its name. */
  readonly who: string;
  /** ms since epoch */
  readonly since: Milliseconds;
}

interface OpenKindRule {
  /** What is the matter, after the name. */
  readonly says: string;
  readonly stone: StoneName;
  /** What to do about it. */
  readonly next: string;
  /**
   * Whether it may not outlast a visit even where nobody left it open knowingly: it makes values unreal, or the
   * station act otherwise than is meant. Our own choice.
   */
  readonly forgotten: boolean;
}

/** One object a kind: what is said of it, which stone it displaces, what ends it. */
export const openKinds: Readonly<Record<OpenKind, OpenKindRule>> = {
  'leads-off': {
    says: 'leads off',
    stone: 'wiring',
    next: 'Put the leads back by the wiring sheet and end the off-line window',
    forgotten: true,
  },
  'line-held': {
    says: 'the logger holds its polling',
    stone: 'power and link',
    next: 'Give the line back to the logger',
    forgotten: true,
  },
  'settings-staged': {
    says: 'settings staged, not written',
    stone: 'settings',
    next: 'Write them to the logger, or take them back',
    forgotten: false,
  },
  'check-open': { says: 'check not closed', stone: 'reference', next: 'Finish the check', forgotten: false },
  'bench-open': {
    says: 'measuring not ended',
    stone: 'wiring',
    next: 'Measure to the end, or end it undecided',
    forgotten: false,
  },
  'write-unknown': {
    says: 'a write whose outcome is unknown',
    stone: 'power and link',
    next: 'Read back to settle it',
    forgotten: false,
  },
  'put-back': { says: 'not put back', stone: 'wiring', next: 'Put it back, and tick it', forgotten: true },
};

/**
 * What names an open matter, for whoever says why it stays open.
 *
 * @example matterKey({ kind: 'leads-off', subject: '42' }) // 'leads-off 42'
 */
export const matterKey = ({ kind, subject }: Pick<OpenMatter, 'kind' | 'subject'>): string =>
  `${kind} ${subject}`;

/**
 * An open matter in a line.
 *
 * @example matterText({ kind: 'put-back', who: 'Fan in hand' }) // 'Fan in hand: not put back'
 */
export const matterText = ({ kind, who }: Pick<OpenMatter, 'kind' | 'who'>): string =>
  `${who}: ${openKinds[kind].says}`;

/** So long somebody is at a station at the most, h: whatever was done within it is one visit. Our own choice. */
export const visitHours = 8;
