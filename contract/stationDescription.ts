import type { SerialSettings } from '@/core/bus/serial';
import { signals, type Signal } from '@/core/wiring/landing';
import { finite, name as nameOf, serialSettings } from '@/schema/pieces';
import { listOf, must, number, oneOf, orElse, shape, text } from '@/schema/shape';

/** A station as an administrator describes it in a JSON file: where it is, its logger, its bus port. */
export interface StationDescription {
  site: { name: string; zone: string; note?: string };
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
  };
  port?: {
    name: string;
    gatewayAddress: string;
    framing?: 'rtu' | 'tcp';
    serial: SerialSettings;
    terminals: { label: string; signal: Signal }[];
  };
}

const name = nameOf(80);
const address = must(text((s) => s.pattern(/^\S+:\d+$/)));

export const stationDescription = shape<StationDescription>({
  site: must(
    shape<StationDescription['site']>({
      name: must(name),
      zone: must(name),
      note: text((s) => s.allow('')),
    }),
  ),
  code: must(text((s) => s.pattern(/^[A-Z0-9-]{2,20}$/))),
  name: must(name),
  cautions: listOf(text(), (a) => a.default([])),
  logger: shape<NonNullable<StationDescription['logger']>>({
    model: must(name),
    serial: must(name),
    address,
    utcOffsetMinutes: must(number((n) => n.integer().min(-840).max(840))),
    supplyVoltage: must(finite((n) => n.greater(0).max(60))),
  }),
  port: shape<NonNullable<StationDescription['port']>>({
    name: must(name),
    gatewayAddress: address,
    framing: orElse(oneOf<'rtu' | 'tcp'>()('rtu', 'tcp'), 'rtu'),
    serial: must(serialSettings),
    terminals: must(
      listOf(
        shape<NonNullable<StationDescription['port']>['terminals'][number]>({
          label: must(name),
          signal: must(oneOf<Signal>()(...signals)),
        }),
        (a) => a.min(1),
      ),
    ),
  }),
});
