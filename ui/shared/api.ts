'use client';

import { v7 } from 'uuid';
import { deviceTimeHeader, deviceTimeText, type DeviceTime } from '@/contract/deviceClock';
import { endedElsewhere, type ProblemBody } from '@/contract/problem';
import { deviceTime, hearServerTime } from './deviceClock';

/** A refusal with its sentence and remedy, as the application sent it. */
export class Refusal extends Error {
  constructor(readonly problem: ProblemBody) {
    super(`${problem.detail} ${problem.remedy}`);
  }
}

/** A refusal of this page's own, before anything is sent. */
export const refuseHere = (code: string, field: string, detail: string, remedy: string): Refusal =>
  new Refusal({ type: 'about:blank', title: 'Not sent', status: 422, code, field, detail, remedy });

/** Told when somebody ended this session from elsewhere, as where the device was lost. */
const endings = new Set<() => void>();
export const onEndedElsewhere = (tell: () => void): (() => void) => {
  endings.add(tell);
  return () => endings.delete(tell);
};

const unreachable: ProblemBody = {
  type: 'about:blank',
  title: 'No connection',
  status: 0,
  code: 'offline',
  detail: 'The application cannot be reached just now.',
  remedy: 'What is on this screen stays. Check the connection and try again.',
};

async function answer<T>(sent: () => Promise<Response>): Promise<T> {
  const asked = Date.now();
  let response: Response;
  try {
    response = await sent();
  } catch {
    throw new Refusal(unreachable);
  }
  hearServerTime(response, asked);
  const body: unknown = await response.json().catch(() => null);
  if (response.ok) return body as T;
  if ((body as ProblemBody | null)?.code === endedElsewhere) for (const tell of endings) tell();
  throw new Refusal((body as ProblemBody | null) ?? { ...unreachable, status: response.status });
}

export const newId = (): string => v7();

/** Where the application cannot be reached: what stands in for its answers. */
let standIn: ((path: string) => Promise<unknown>) | null = null;
/** From now on what is asked is answered from elsewhere; throws a Refusal for what is not there. */
export const answerFrom = (source: typeof standIn): void => {
  standIn = source;
};

export const load = <T>(path: string): Promise<T> => (standIn ? (standIn(path) as Promise<T>) : ask<T>(path));

/** Asks the application itself. */
export const ask = <T>(path: string, signal?: AbortSignal): Promise<T> =>
  answer(() => fetch(path, { headers: { accept: 'application/json' }, ...(signal && { signal }) }));

export type WriteMethod = 'POST' | 'PUT' | 'DELETE';

/**
 * Sends a write. The idempotency key belongs to the intention: pass the same one to send the same
 * intention again after a lost answer.
 */
export const send = <T>(
  method: WriteMethod,
  path: string,
  body: unknown = {},
  key = newId(),
  more: { headers?: Readonly<Record<string, string>>; device?: DeviceTime; signal?: AbortSignal } = {},
): Promise<T> =>
  answer(() =>
    fetch(path, {
      method,
      headers: {
        'content-type': 'application/json',
        'idempotency-key': key,
        [deviceTimeHeader]: deviceTimeText(more.device ?? deviceTime()),
        ...more.headers,
      },
      body: JSON.stringify(body),
      ...(more.signal && { signal: more.signal }),
    }),
  );

/** Sends a file as it is; what it is was said in a request before. */
export const sendFile = <T>(path: string, file: File): Promise<T> =>
  answer(() =>
    fetch(path, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: file }),
  );
