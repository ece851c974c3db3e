import type { GatewayProfile } from '@/core/device/equipment';
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

/** Likewise of a gateway's, for a line of its kind; `field` is where its code was said. */
export async function gatewayProfileOf(
  db: Database,
  field: string,
  code: string,
  line: 'modbus-rtu' | 'sdi-12' = 'modbus-rtu',
): Promise<GatewayProfile> {
  const found = (await newestDevices(db)).find((p) => p.code === code);
  if (found?.kind === 'gateway' && (found.framing === 'sdi-12') === (line === 'sdi-12')) return found;
  throw badField(
    'unknown-gateway-model',
    field,
    code,
    `The catalogue has no gateway "${code}" that carries ${line === 'sdi-12' ? 'SDI-12' : 'Modbus RTU'}.`,
    'Choose one from the list, or none.',
  );
}
