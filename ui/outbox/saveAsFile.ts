import type { Queued } from './queued';

/** What is not sent, as a JSON file: for the day this device does not reach the server any more. */
export function saveAsFile(items: readonly Queued[]): void {
  const content = { format: 'outer-cairn-unsent', version: 1, writes: items };
  const address = URL.createObjectURL(
    new Blob([JSON.stringify(content, null, 1)], { type: 'application/json' }),
  );
  const link = document.createElement('a');
  link.href = address;
  link.download = `not-sent-${new Date().toISOString().slice(0, 10)}.json`;
  link.click();
  URL.revokeObjectURL(address);
}
