import type { SerialSettings } from '@/core/bus/serial';
import { signals, type Signal } from '@/core/wiring/landing';
import { finite, name as nameOf, serialSettings } from '@/schema/pieces';
import { listOf, must, number, oneOf, orElse, orNull, shape, text } from '@/schema/shape';

/** A station as an administrator describes it in a JSON file: where it is, its logger, its bus port. */
export interface StationDescription {
  site: {
    name: string;
    zone: string;
    note?: string;
    /** ° north and east, both or neither. */
    latitude?: number | null;
    longitude?: number | null;
    cautions?: string[];
  };
  code: string;
  name: string;
  cautions?: string[];
  /** With its port, or neither: where everything comes from files or is typed. */
  logger?: {
    model: string;
    serial: string;
    address: string;
    utcOffsetMinutes: number;
    supplyVoltage: number;
    /** Code of its profile: its ports and terminals come from there. */
    profile?: string;
  };
  port?: {
    name: string;
    gatewayAddress: string;
    /** Code of the gateway's profile: how it frames comes from there. */
    gatewayProfile?: string;
    framing?: 'rtu' | 'tcp';
    serial: SerialSettings;
    /** From the logger's profile where it has one. */
    terminals?: { label: string; signal: Signal }[];
  };
}

const name = nameOf(80);
/** host:port */
export const deviceAddress = must(text((s) => s.max(260).pattern(/^\S+:\d+$/)));

export const stationDescription = shape<StationDescription>({
  site: must(
    shape<StationDescription['site']>({
      name: must(name),
      zone: must(name),
      note: text((s) => s.allow('')),
      latitude: orNull(finite((n) => n.min(-90).max(90))),
      longitude: orNull(finite((n) => n.min(-180).max(180))),
      cautions: listOf(
        text((s) => s.trim().min(1).max(2000)),
        (a) => a.max(10),
      ),
    }),
  ),
  code: must(text((s) => s.pattern(/^[A-Z0-9-]{2,20}$/))),
  name: must(name),
  cautions: listOf(text(), (a) => a.default([])),
  logger: shape<NonNullable<StationDescription['logger']>>({
    model: must(name),
    serial: must(name),
    address: deviceAddress,
    utcOffsetMinutes: must(number((n) => n.integer().min(-840).max(840))),
    supplyVoltage: must(finite((n) => n.greater(0).max(60))),
    profile: text((s) => s.max(40)),
  }),
  port: shape<NonNullable<StationDescription['port']>>({
    name: must(name),
    gatewayAddress: deviceAddress,
    gatewayProfile: text((s) => s.max(40)),
    framing: orElse(oneOf<'rtu' | 'tcp'>()('rtu', 'tcp'), 'rtu'),
    serial: must(serialSettings),
    terminals: listOf(
      shape<NonNullable<NonNullable<StationDescription['port']>['terminals']>[number]>({
        label: must(name),
        signal: must(oneOf<Signal>()(...signals)),
      }),
      (a) => a.min(1),
    ),
  }),
});
