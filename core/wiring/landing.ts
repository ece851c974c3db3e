import { confusable } from './leadColour';

/** What a lead or terminal is for. Polarity is written + and −, never A and B: makers disagree. */
export const signals = [
  'supply+',
  'supply−',
  'data+',
  'data−',
  'common',
  'shield',
  // One wire for data: SDI-12, a chain, clock-and-data.
  'data',
  'clock',
  'excitation',
  'signal+',
  'signal−',
  'sense+',
  'sense−',
  'pulse',
  // Carries what somebody else's lead puts on it.
  'spare',
] as const;
export type Signal = (typeof signals)[number];

export interface TerminalPlace {
  readonly id: string;
  readonly label: string;
  readonly signal: Signal;
}

export interface Landing {
  readonly colour: string;
  readonly signal: Signal;
  readonly terminal: TerminalPlace | null;
  /** Why this lead is easy to get wrong. */
  readonly mind: string | null;
}

/**
 * Which lead lands on which terminal, by signal: polarity + to +, − to −, commons joined, shield to
 * its own terminal or, where there is none, together with the supply's minus. Several leads may
 * share a terminal on purpose. A lead with no terminal is returned with null. Common practice.
 *
 * @param leads the sensor's, by colour and signal
 * @param terminals those of one port, in any order
 */
export function landLeads(
  leads: readonly { readonly colour: string; readonly signal: Signal }[],
  terminals: readonly TerminalPlace[],
): Landing[] {
  const find = (signal: Signal) => terminals.find((t) => t.signal === signal) ?? null;
  const alike = confusable(leads.map((l) => l.colour));
  return leads.map((lead) => {
    const instead: Signal[] =
      lead.signal === 'shield' || lead.signal === 'common' ? ['common', 'supply−'] : [];
    const terminal = [lead.signal, ...instead].map(find).find((t) => t !== null) ?? null;
    const others = alike.flatMap(({ a, b }) => (a === lead.colour ? [b] : b === lead.colour ? [a] : []));
    return {
      ...lead,
      terminal,
      mind: others.length ? `in poor light easily taken for ${others.join(' or ')}` : null,
    };
  });
}
