import { saveTextAsFile } from '../shared/saveAsFile';
import type { Queued } from './queued';

/** What is not sent, as a JSON file: for the day this device does not reach the server any more. */
export function saveAsFile(items: readonly Queued[]): void {
  const content = { format: 'outer-cairn-unsent', version: 1, writes: items };
  saveTextAsFile(
    `not-sent-${new Date().toISOString().slice(0, 10)}.json`,
    JSON.stringify(content, null, 1),
    'application/json',
  );
}
