/** Starts database, practice stand and application on fresh demo data; stops them at the end. */
export default async function globalSetup(): Promise<() => Promise<void>> {
  const { reapStack, startStack } = await import('../scripts/stack.mjs');
  const { stopAll } = await import('../scripts/children.mjs');
  const stack = await startStack('e2e', { fresh: true });
  process.env.E2E_URL = stack.url;
  process.env.E2E_LAB = stack.lab;
  return async () => {
    await stopAll();
    // A test may have started the application anew.
    reapStack('e2e');
    stack.postgres.stop();
  };
}
