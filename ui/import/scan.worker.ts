import { scanFile, type ScanOrder, type ScanResult } from './scanFile';

/** Scans in a thread of its own, so that the page stays awake over a long file. */
export type ScanMessage =
  | { readonly kind: 'progress'; readonly share: number }
  | { readonly kind: 'done'; readonly result: ScanResult }
  | { readonly kind: 'failed'; readonly says: string };

const say = (message: ScanMessage) => self.postMessage(message);

self.addEventListener('message', (event: MessageEvent<ScanOrder>) => {
  let told = 0;
  scanFile(event.data, (share) => {
    if (share - told < 0.02) return;
    told = share;
    say({ kind: 'progress', share });
  }).then(
    (result) => say({ kind: 'done', result }),
    (error: unknown) => say({ kind: 'failed', says: (error as Error).message }),
  );
});
