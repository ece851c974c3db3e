import type { FullConfig } from '@playwright/test';

/**
 * A database, practice stand and application on fresh demo data for each worker, so that their journeys
 * do not meet; stops them at the end.
 */
export default async function globalSetup({ workers }: FullConfig): Promise<() => Promise<void>> {
  const { reapStack, startStack } = await import('../scripts/stack.mjs');
  const { stopAll } = await import('../scripts/children.mjs');
  const kinds = Array.from({ length: workers }, (_, lane) => `e2e-${lane}`);
  const stacks = await Promise.all(kinds.map((kind, lane) => startStack(kind, { fresh: true, lane })));
  process.env.E2E_STACKS = JSON.stringify(stacks.map(({ url, lab }, i) => ({ kind: kinds[i], url, lab })));
  return async () => {
    await stopAll();
    // A test may have started the application anew.
    for (const kind of kinds) reapStack(kind);
    for (const { postgres } of stacks) postgres.stop();
  };
}
