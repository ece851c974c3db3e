import { database } from '@/db/database';
import { setupCode } from '../account/people';
import { log } from './log';
import { keepDoing } from '../watch/jobs';
import { keepSweeping } from './sweep';

/** Without an administrator nobody can do anything: whoever reads the server's own output makes the first one. */
async function sayHowToBegin(): Promise<void> {
  const code = await setupCode(database());
  if (code)
    process.stdout.write(
      `There is no administrator yet. Make the first one within a day at ${process.env.PUBLIC_ORIGIN ?? ''}/welcome#${code}\n`,
    );
}

/** Does jobs for as long as the process lives; where the database goes away, it begins anew when that is back. */
function keepWorking(): void {
  const begin = () => void keepDoing(database, process.env, again).catch(again);
  const again = (error: unknown) => {
    log.warn({ err: error }, 'jobs cannot be done just now; it will be tried again');
    setTimeout(begin, 3000).unref();
  };
  begin();
}

export async function beginProcess(): Promise<void> {
  keepSweeping(database);
  keepWorking();
  await sayHowToBegin().catch((error: unknown) =>
    log.warn({ err: error }, 'the database does not answer yet; no code for a first administrator was made'),
  );
}
