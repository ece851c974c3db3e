import type { CaptureReading, EnteredValue } from '@/contract/requests';
import type { Queued } from './queued';

/** A reading as the release before observations kept it: the thermometers beside both humidities each in a place of their own. */
type FormerReading = Omit<CaptureReading, 'typed' | 'companions'> & {
  readonly referenceTemperature?: EnteredValue;
  readonly typed?: NonNullable<CaptureReading['typed']> & { readonly sensorTemperature?: EnteredValue };
  readonly companions?: CaptureReading['companions'];
};

/**
 * What an earlier release kept on this device, in the shape that is taken today: a device may have been without a
 * signal while the server was replaced. Everything else is handed through as it is.
 */
export function broughtUp(item: Queued): Queued {
  if (item.kind !== 'checkReading') return item;
  const { referenceTemperature, typed, companions, ...rest } = item.body as FormerReading;
  const { sensorTemperature, ...sensor } = typed ?? {};
  if (!referenceTemperature && !sensorTemperature) return item;
  const body = {
    ...rest,
    ...(typed && { typed: sensor }),
    companions: {
      ...companions,
      ...(sensorTemperature && { sensorTemperature }),
      ...(referenceTemperature && { referenceTemperature }),
    },
  } as CaptureReading;
  return { ...item, body };
}
