import { fork } from 'node:child_process';
import { once } from 'node:events';
import type { Context } from '@/server/context';
import type { TestDatabase } from './database';

/** Runs a script of this folder as somebody, in a process of its own that ends by killing itself. */
export async function killed(
  script: string,
  order: Readonly<Record<string, unknown>>,
  test_: TestDatabase,
  { person, deviceAllow }: Context,
): Promise<void> {
  const whole = { url: test_.appUrl, personId: person.id, deviceAllow, ...order };
  const child = fork(script, [JSON.stringify(whole)], { execArgv: ['--import', 'tsx'], stdio: 'inherit' });
  const [code, signal] = (await once(child, 'exit')) as [number | null, string | null];
  expect([code, signal]).toEqual([null, 'SIGKILL']);
}
