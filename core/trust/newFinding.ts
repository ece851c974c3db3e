import { findingKinds, type Finding, type FindingCode, type Subject } from './finding';
import type { ChannelFacts } from './stationFacts';

/** What a finding is about, and the channels whose values it bears on. */
export interface About {
  readonly subject: Subject;
  readonly who: string;
  readonly channels: readonly string[];
}
type More = Partial<Pick<Finding, 'from' | 'until' | 'bring' | 'placeAt'>>;

/** One finding with the stone and weight of its kind; it has always held and goes on, unless said. */
export function finding(
  about: About,
  code: FindingCode,
  state: Finding['state'],
  text: string,
  next: string,
  more: More = {},
): Finding {
  const { stone, weight } = findingKinds[code];
  const always = { from: -Infinity, until: Infinity, bring: [], placeAt: null };
  return { ...about, code, stone, weight, state, text, next, ...always, ...more };
}

export const aboutChannel = (c: ChannelFacts): About => ({
  subject: { kind: 'channel', id: c.id },
  who: c.name,
  channels: [c.id],
});
