import Sequencer from '@jest/test-sequencer';

/** Files that take long, longest first: begun early they end beside the others, not after them. */
const slow = [
  'app/api/wild.test.ts',
  'server/import/killed.test.ts',
  'scripts/commandLine.test.ts',
  'server/device/deviceAction.test.ts',
  'server/trust/round.test.ts',
  'server/import/interleaved.test.ts',
  'server/import/import.test.ts',
  'app/api/routes.test.ts',
];
const place = ({ path }) => {
  const at = slow.findIndex((file) => path.endsWith(file));
  return at < 0 ? slow.length : at;
};

/** The order in which Jest runs test files. A fresh checkout remembers no times, and would go by length. */
export default class SlowFirst extends Sequencer {
  sort(tests) {
    return [...super.sort(tests)].sort((a, b) => place(a) - place(b));
  }
}
