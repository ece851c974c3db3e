import { disturbances, type Disturbance } from '@/core/device/profile';
import type { Accepted, LeadPlace, Pin, Plan, PlannedDevice, PlannedPort, SharedRun } from '@/core/plan/plan';
import { finite, name, serialSettings, words } from './pieces';
import { listOf, mapOf, must, number, oneOf, orNull, shape, text, unionBy, yesNo } from './shape';

/** A plan of a station's wiring: its form over the wire and in the database. */
const pin = shape<Pin>({
  code: must(name(40)),
  revision: must(number((n) => n.integer().min(1).max(9999))),
});
const metres = must(finite((n) => n.min(0).max(5000)));
const ohmsPerKm = must(finite((n) => n.min(0).max(1000)));
const place = unionBy<LeadPlace>()('at', {
  terminal: { terminal: must(name(12)) },
  splice: { splice: must(name(30)) },
  host: { device: must(name(60)), screw: must(name(12)) },
});

const device = shape<PlannedDevice>({
  id: must(name(60)),
  profile: must(pin),
  name: must(name(60)),
  serial: must(orNull(name(60))),
  busId: must(orNull(number((n) => n.integer().min(1).max(247)))),
  busAddress: must(orNull(text((s) => s.pattern(/^([0-9a-zA-Z]|0x[0-9a-f]{2})$/)))),
  line: must(orNull(serialSettings)),
  cable: must(shape<PlannedDevice['cable']>({ metres, ohmsPerKm, run: must(orNull(name(30))) })),
  landings: must(mapOf(place)),
  accessories: must(listOf(pin, (a) => a.max(10))),
  earthedAtSensor: must(yesNo()),
  height: must(orNull(finite((n) => n.min(-500).max(1000)))),
  tilt: must(orNull(finite((n) => n.min(0).max(180)))),
  near: must(
    listOf(
      shape<PlannedDevice['near'][number]>({
        of: must(oneOf<Disturbance>()(...disturbances)),
        metres: must(finite((n) => n.min(0).max(1000))),
      }),
      (a) => a.max(10),
    ),
  ),
  mapped: must(listOf(name(40), (a) => a.max(64))),
  perPulse: must(orNull(finite((n) => n.greater(0)))),
  fullScale: must(orNull(finite((n) => n.greater(0)))),
  isolatedBy: must(orNull(name(120))),
});

export const wiringPlan = shape<Plan>({
  logger: must(pin),
  supply: must(
    shape<Plan['supply']>({
      volts: must(finite((n) => n.min(0).max(60))),
      most: must(finite((n) => n.min(0).max(100))),
      batteryAh: must(orNull(finite((n) => n.greater(0).max(10_000)))),
      solarWh: must(orNull(finite((n) => n.min(0).max(100_000)))),
      daysWanted: must(finite((n) => n.min(0).max(1000))),
    }),
  ),
  measureEvery: must(finite((n) => n.min(1).max(86_400))),
  storeEvery: must(finite((n) => n.min(1).max(86_400))),
  visitEvery: must(finite((n) => n.greater(0).max(3650))),
  ports: must(
    listOf(
      shape<PlannedPort>({
        name: must(name(30)),
        line: must(orNull(serialSettings)),
        terminators: must(number((n) => n.integer().min(0).max(10))),
      }),
      (a) => a.max(40),
    ),
  ),
  runs: must(listOf(shape<SharedRun>({ name: must(name(30)), metres, ohmsPerKm }), (a) => a.max(40))),
  splices: must(
    listOf(shape<Plan['splices'][number]>({ name: must(name(30)), terminal: must(orNull(name(12))) }), (a) =>
      a.max(100),
    ),
  ),
  devices: must(listOf(device, (a) => a.max(250))),
  accepted: must(
    listOf(shape<Accepted>({ key: must(name(2000)), reason: must(words(1)), by: must(name(60)) }), (a) =>
      a.max(500),
    ),
  ),
});
