import type { FindingView } from '@/contract/views';
import { saidAt, type Finding } from '@/core/trust/finding';

/** A finding as it is said at an instant. */
export const findingView = (f: Finding, now: number): FindingView => ({
  code: f.code,
  stone: f.stone,
  state: f.state,
  text: `${f.who}: ${saidAt(f.text, now)}`,
  next: f.next,
  channelId: f.subject.kind === 'channel' ? f.subject.id : null,
});
