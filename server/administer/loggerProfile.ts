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

/** Likewise of a gateway's; `field` is where its code was said. */
export async function gatewayProfileOf(db: Database, field: string, code: string): Promise<GatewayProfile> {
  const found = (await newestDevices(db)).find((p) => p.code === code);
  if (found?.kind === 'gateway' && found.carries.includes('modbus-rtu')) return found;
  throw badField(
    'unknown-gateway-model',
    field,
    code,
    `The catalogue has no gateway "${code}" that carries Modbus RTU.`,
    'Choose one from the list, or none.',
  );
}
