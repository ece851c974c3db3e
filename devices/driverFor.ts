import type { LoggerProfile } from '@/core/device/loggerProfile';
import { fileLinkLogger } from './fileLinkLogger';
import { httpLogger } from './httpLogger';
import type { LoggerDriver } from './logger';

/** Every interface that is spoken here; a new one is its driver and this line. */
const drivers: Readonly<Record<LoggerProfile['driver'], LoggerDriver>> = {
  http: httpLogger,
  'file-link': fileLinkLogger,
};

/** The driver of a logger; one that nobody described is asked over HTTP. */
export const driverFor = (profile: Pick<LoggerProfile, 'driver'> | null): LoggerDriver =>
  drivers[profile?.driver ?? 'http'];
