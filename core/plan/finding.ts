/** How much a finding matters: `stops` forbids work, `fails` will not work, `doubt` may not, `hint` is worth a look. */
export const severities = ['stops', 'fails', 'doubt', 'hint'] as const;
export type Severity = (typeof severities)[number];

/** What a rule found. */
export interface Found {
  /** One plain sentence. */
  readonly text: string;
  /** The sum in full; empty where there is none. */
  readonly sum: string;
  readonly remedy: string;
  /** Ids of devices, labels of terminals to light up. */
  readonly devices: readonly string[];
  readonly terminals: readonly string[];
}

export interface PlanFinding extends Found {
  readonly rule: string;
  readonly title: string;
  readonly severity: Severity;
  /** Why somebody lets it stand; null while nobody does. */
  readonly accepted: { readonly reason: string; readonly by: string } | null;
}

/**
 * What a finding is known by, so that accepting it holds while the rule finds the same thing at the same place,
 * whatever its sum is by then.
 *
 * @example findingKey('loop-voltage', { devices: ['b', 'a'], terminals: ['A1'] }) // 'loop-voltage a b A1'
 */
export const findingKey = (rule: string, at: Pick<Found, 'devices' | 'terminals'>): string =>
  [rule, ...[...at.devices].sort(), ...[...at.terminals].sort()].join(' ');
