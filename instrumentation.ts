/** What a process does once when it starts: keeps the house in order, and says how the first account is made. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { beginProcess } = await import('./server/process/beginProcess');
  await beginProcess();
}
