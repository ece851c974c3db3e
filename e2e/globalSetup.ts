import type { FullConfig } from '@playwright/test';

/**
 * A database, practice stand and application for each worker, so that their journeys do not meet: all of them on one
 * demo, lived through once. Stops them at the end.
 */
export default async function globalSetup({ workers }: FullConfig): Promise<() => Promise<void>> {
  const { reapStack, seedAlike, startStack } = await import('../scripts/stack.mjs');
  const { stopAll } = await import('../scripts/children.mjs');
  const kinds = Array.from({ length: workers }, (_, i) => `e2e-${i}`);
  await seedAlike(kinds);
  const stacks = await Promise.all(kinds.map((kind) => startStack(kind)));
  process.env.E2E_STACKS = JSON.stringify(stacks.map(({ url, lab }, i) => ({ kind: kinds[i], url, lab })));
  return async () => {
    await stopAll();
    // A test may have started the application anew.
    for (const kind of kinds) reapStack(kind);
    for (const { postgres } of stacks) postgres.stop();
  };
}
