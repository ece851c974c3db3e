'use client';

import { useEffect, useState } from 'react';
import type { ImportPlan } from '@/core/import/plan';
import type { StoredEnvelope } from '@/core/import/unlike';
import type { ScanMessage } from './scan.worker';
import type { ScanOrder, ScanResult } from './scanFile';

export type Scan =
  | { readonly state: 'idle' }
  | { readonly state: 'scanning'; readonly share: number }
  | { readonly state: 'done'; readonly result: ScanResult }
  | { readonly state: 'failed'; readonly says: string };

/** Scans a file under a plan; a changed plan begins anew, a moment after the last change. */
export function useScan(
  file: File | null,
  plan: ImportPlan | null,
  stored: readonly (StoredEnvelope | null)[],
): Scan {
  const key = plan && file ? JSON.stringify([file.name, file.size, file.lastModified, plan]) : null;
  const [scan, setScan] = useState<{ key: string | null; scan: Scan }>({
    key: null,
    scan: { state: 'idle' },
  });
  useEffect(() => {
    if (!key || !file || !plan) return;
    let worker: Worker | null = null;
    const timer = setTimeout(() => {
      worker = new Worker(new URL('./scan.worker.ts', import.meta.url), { type: 'module' });
      const tell = (said: Scan) => setScan({ key, scan: said });
      tell({ state: 'scanning', share: 0 });
      worker.onmessage = ({ data }: MessageEvent<ScanMessage>) => {
        if (data.kind === 'progress') tell({ state: 'scanning', share: data.share });
        else if (data.kind === 'done') tell({ state: 'done', result: data.result });
        else tell({ state: 'failed', says: data.says });
      };
      worker.onerror = () => tell({ state: 'failed', says: 'The file could not be read here.' });
      worker.postMessage({ file, plan, now: Date.now(), stored } satisfies ScanOrder);
    }, 250);
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
    // The key stands for file and plan; what is stored does not change while the page is open.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return scan.key === key ? scan.scan : ({ state: key ? 'scanning' : 'idle', share: 0 } as Scan);
}
