import { database } from '@/db/database';
import { setupCode } from '../account/people';
import { log } from './log';
import { keepSweeping } from './sweep';

/** Without an administrator nobody can do anything: whoever reads the server's own output makes the first one. */
async function sayHowToBegin(): Promise<void> {
  const code = await setupCode(database());
  if (code)
    process.stdout.write(
      `There is no administrator yet. Make the first one within a day at ${process.env.PUBLIC_ORIGIN ?? ''}/welcome#${code}\n`,
    );
}

export async function beginProcess(): Promise<void> {
  keepSweeping(database);
  await sayHowToBegin().catch((error: unknown) =>
    log.warn({ err: error }, 'the database does not answer yet; no code for a first administrator was made'),
  );
}
