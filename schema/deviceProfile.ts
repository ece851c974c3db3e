import type { Accuracy } from '@/core/device/accuracy';
import type { ConversionStep } from '@/core/device/conversion';
import type { Connection, SensorOutput, SensorProfile } from '@/core/device/profile';
import { registerTypes, type RegisterField, type RegisterType } from '@/core/device/registerField';
import { signals, type Signal } from '@/core/wiring/landing';
import { finite, name, quantity, serialSettings, words } from './pieces';
import { listOf, must, number, oneOf, pairOf, shape, text, textThat, unionBy } from './shape';

/** Device profiles: the form of their JSON, in files, over the wire and in the database. */
const any = must(finite());
const above = must(finite((n) => n.greater(0)));
const share = must(finite((n) => n.min(0).max(1)));
const numbers = must(listOf(finite(), (a) => a.min(2).max(500)));
const oneWord = (s: string): s is string => /^[a-z][a-zA-Z0-9-]{1,39}$/.test(s);

export const registerField = shape<RegisterField>({
  fn: must(oneOf<3 | 4>()(3, 4)),
  address: must(number((n) => n.integer().min(0).max(65_535))),
  type: must(textThat((s): s is RegisterType => (registerTypes as readonly string[]).includes(s))),
  wordOrder: must(oneOf<RegisterField['wordOrder']>()('high-first', 'low-first')),
  missing: must(listOf(finite(), (a) => a.max(8))),
});

export const conversion = listOf(
  unionBy<ConversionStep>()('step', {
    linear: { gain: any, offset: any },
    divide: { by: above },
    polynomial: { coefficients: numbers, over: must(pairOf(finite())) },
    table: { x: numbers, y: numbers },
    'steinhart-hart': { a: any, b: any, c: any },
    beta: { at25: above, beta: above },
    'callendar-van-dusen': { at0: above },
    'half-bridge': {
      fixed: above,
      sensing: must(oneOf<'to-ground' | 'to-excitation'>()('to-ground', 'to-excitation')),
    },
    shunt: { ohms: above },
  }),
  (a) => a.max(12),
);

const output = shape<SensorOutput>({
  key: must(textThat(oneWord)),
  quantity: must(quantity),
  label: must(text((s) => s.trim().max(40).allow(''))),
  field: must(registerField),
  conversion: must(conversion),
  range: must(pairOf(finite())),
  accuracy: must(
    shape<Accuracy>({ absolute: must(finite((n) => n.min(0))), ofReading: share, ofRange: share }),
  ),
  resolution: above,
  response: must(finite((n) => n.min(0).max(86_400))),
});

export const sensorProfile = shape<SensorProfile>({
  kind: must(oneOf<'sensor'>()('sensor')),
  code: must(textThat(oneWord)),
  revision: must(number((n) => n.integer().min(1).max(9999))),
  name: must(name(80)),
  connection: must(
    unionBy<Connection>()('kind', {
      'modbus-rtu': { serial: must(serialSettings), idSetBy: must(words(1)) },
    }),
  ),
  supply: must(
    shape<SensorProfile['supply']>({
      low: must(finite((n) => n.min(0).max(60))),
      high: must(finite((n) => n.greater(0).max(60))),
      preferred: must(finite((n) => n.greater(0).max(60))),
    }),
  ),
  current: must(finite((n) => n.min(0).max(10))),
  warmUp: must(finite((n) => n.min(0).max(3600))),
  leads: must(
    listOf(
      shape<SensorProfile['leads'][number]>({
        colour: must(name(30)),
        signal: must(oneOf<Signal>()(...signals)),
      }),
      (a) => a.max(24),
    ),
  ),
  outputs: must(listOf(output, (a) => a.min(1).max(64))),
  cautions: must(listOf(words(1), (a) => a.max(10))),
});
