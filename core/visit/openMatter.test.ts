import { stoneNames } from '../trust/finding';
import { matterKey, matterText, openKinds, type OpenKind } from './openMatter';

test.each(Object.entries(openKinds))('%s displaces a stone and says what ends it', (kind, rule) => {
  expect(stoneNames).toContain(rule.stone);
  expect(rule.next).toMatch(/^[A-Z]/);
  expect(matterText({ kind: kind as OpenKind, who: 'TH3-1031' })).toBe(`TH3-1031: ${rule.says}`);
});

test('what makes values unreal may not outlast a visit unsaid; what only waits may', () =>
  expect(Object.entries(openKinds).flatMap(([kind, { forgotten }]) => (forgotten ? [kind] : []))).toEqual([
    'leads-off',
    'line-held',
    'put-back',
  ]));

test('two matters of one kind are told apart', () =>
  expect(matterKey({ kind: 'check-open', subject: 'a' })).not.toBe(
    matterKey({ kind: 'check-open', subject: 'b' }),
  ));
