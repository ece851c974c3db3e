import type { LoggerProfile } from '@/core/device/loggerProfile';
import type { Database } from '@/db/database';
import { newestDevices } from '../device/profiles';
import { badField } from '../problem';

/** The newest revision of a logger's profile; refuses a code that names none. */
export async function loggerProfileOf(db: Database, code: string): Promise<LoggerProfile> {
  const found = (await newestDevices(db)).find((p) => p.code === code);
  if (found?.kind === 'logger') return found;
  throw badField(
    'unknown-logger-model',
    'logger.profile',
    code,
    `The catalogue has no logger "${code}".`,
    'Choose one from the list.',
  );
}
