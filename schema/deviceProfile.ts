import type { Accuracy } from '@/core/device/accuracy';
import type { OffsetTaken } from '@/core/device/offsetTaken';
import { handWays, loggerWays, type HandWay, type LoggerWay } from '@/core/device/adjustmentWay';
import {
  connectionKindNames,
  type BusManagement,
  type Connection,
  type ConnectionKind,
  type ConnectionOf,
} from '@/core/device/connection';
import type { ConversionStep } from '@/core/device/conversion';
import type { AccessoryProfile, DeviceProfile } from '@/core/device/equipment';
import {
  startsBy,
  type Ability,
  type LoggerPort,
  type PortBus,
  type Restarts,
  type StandAlone,
  type StartsBy,
  type Terminal,
  type WhenFull,
} from '@/core/device/loggerProfile';
import type { OwnAbilities } from '@/core/settings/ownSettings';
import type { OutputField } from '@/core/device/outputField';
import type { ReplaceablePart } from '@/core/device/part';
import {
  disturbances,
  type Disturbance,
  type HostPlace,
  type Placing,
  type Plug,
  type SensorOutput,
  type SensorProfile,
} from '@/core/device/profile';
import { registerTypes, type RegisterType } from '@/core/device/registerField';
import { signals, type Signal } from '@/core/wiring/landing';
import { finite, name, quantity, serialSettings, words } from './pieces';
import { listOf, must, number, oneOf, orNull, pairOf, shape, text, textThat, unionBy, yesNo } from './shape';

/** Device profiles: the form of their JSON, in files, over the wire and in the database. */
const any = must(finite());
const above = must(finite((n) => n.greater(0)));
const atLeast0 = must(finite((n) => n.min(0)));
const share = must(finite((n) => n.min(0).max(1)));
const volts = must(finite((n) => n.min(-60).max(60)));
const amperes = must(finite((n) => n.min(0).max(10)));
const whole = (low: number, high: number) => must(number((n) => n.integer().min(low).max(high)));
const numbers = must(listOf(finite(), (a) => a.min(2).max(500)));
const oneWord = (s: string): s is string => /^[a-z][a-zA-Z0-9-]{1,39}$/.test(s);
const isRegisterType = (s: string): s is RegisterType => (registerTypes as readonly string[]).includes(s);
const registerFields = {
  fn: must(oneOf<3 | 4>()(3, 4)),
  address: whole(0, 65_535),
  type: must(textThat(isRegisterType)),
  wordOrder: must(oneOf<'high-first' | 'low-first'>()('high-first', 'low-first')),
  missing: must(listOf(finite(), (a) => a.max(8))),
};

const standAlone = shape<StandAlone>({
  whenFull: must(listOf(oneOf<WhenFull>()('stops', 'overwrites'), (a) => a.min(1).max(2).unique())),
  starts: must(listOf(oneOf<StartsBy>()(...(startsBy as [StartsBy])), (a) => a.min(1).max(4).unique())),
  perStamp: atLeast0,
  overhead: share,
  battery: must(
    shape<StandAlone['battery']>({ ampereHours: above, volts: above, change: above, coldTakes: share }),
  ),
  storesBattery: must(yesNo()),
});

export const outputField = unionBy<OutputField>()('kind', {
  register: registerFields,
  lead: { lead: must(name(30)) },
  'sdi-12': { command: must(name(3)), index: whole(0, 98) },
  slot: { slot: whole(0, 63) },
  i2c: { register: whole(0, 255), signed: must(yesNo()) },
});
/** As it is sent to a logger. */
export const registerField = shape<Omit<Extract<OutputField, { kind: 'register' }>, 'kind'>>(registerFields);

export const conversionStep = unionBy<ConversionStep>()('step', {
  linear: { gain: any, offset: any },
  divide: { by: above },
  polynomial: { coefficients: numbers, over: must(pairOf(finite())) },
  table: { x: numbers, y: numbers, log: yesNo() },
  'steinhart-hart': { a: any, b: any, c: any },
  beta: { at25: above, beta: above },
  'callendar-van-dusen': { at0: above },
  'half-bridge': {
    fixed: above,
    sensing: must(oneOf<'to-ground' | 'to-excitation'>()('to-ground', 'to-excitation')),
  },
  shunt: { ohms: above },
});
export const conversion = listOf(conversionStep, (a) => a.max(12));

const output = shape<SensorOutput>({
  key: must(textThat(oneWord)),
  quantity: must(quantity),
  label: must(text((s) => s.trim().max(40).allow(''))),
  field: must(outputField),
  conversion: must(conversion),
  range: must(pairOf(finite())),
  accuracy: must(shape<Accuracy>({ absolute: atLeast0, ofReading: share, ofRange: share })),
  resolution: above,
  response: must(finite((n) => n.min(0).max(86_400))),
  deadTime: finite((n) => n.min(0).max(86_400)),
  wetMargin: finite((n) => n.min(0)),
  takes: listOf(oneOf<HandWay>()(...handWays), (a) => a.min(1).max(4).unique()),
});

const connectionKind = oneOf<ConnectionKind>()(...(connectionKindNames as [ConnectionKind]));
const gives = oneOf<ConnectionOf<'pulse'>['gives']>()('contact', 'open-collector', 'logic');
const pullUp = must(orNull(finite((n) => n.greater(0))));
const connection = unionBy<Connection>()('kind', {
  'modbus-rtu': {
    serial: must(serialSettings),
    idSetBy: must(words(1)),
    unitLoad: above,
    termination: must(oneOf<ConnectionOf<'modbus-rtu'>['termination']>()('none', 'switched', 'fixed')),
    management: shape<BusManagement>({
      idRegister: whole(0, 65_535),
      serialRegister: must(orNull(number((n) => n.integer().min(0).max(65_535)))),
      storeRegister: must(orNull(number((n) => n.integer().min(0).max(65_535)))),
      anyId: must(orNull(number((n) => n.integer()))),
      service: must(
        orNull(
          shape<NonNullable<BusManagement['service']>>({
            serial: must(serialSettings),
            window: must(finite((n) => n.greater(0).max(600))),
          }),
        ),
      ),
      light: must(orNull(name(80))),
    }),
  },
  'sdi-12': { address: must(name(1)), longest: atLeast0 },
  'daisy-chain': { system: must(name(30)), countsAs: whole(1, 16) },
  i2c: {
    addresses: must(
      listOf(
        number((n) => n.integer()),
        (a) => a.min(1).max(16),
      ),
    ),
    logic: volts,
    pullUp,
  },
  clocked: { logic: volts, pullUp },
  voltage: { low: volts, high: volts, sourceResistance: atLeast0, differential: must(yesNo()) },
  current: { loopPowered: must(yesNo()), least: must(finite((n) => n.min(0).max(60))) },
  'half-bridge': {
    fixed: must(
      shape<ConnectionOf<'half-bridge'>['fixed']>({
        in: must(oneOf<'sensor' | 'logger'>()('sensor', 'logger')),
        ohms: above,
      }),
    ),
    ohms: must(pairOf(finite((n) => n.greater(0)))),
    mostExcitation: volts,
  },
  'full-bridge': { ohms: above, sensitivity: above, mostExcitation: volts },
  prt: { wires: must(oneOf<2 | 3 | 4>()(2, 3, 4)), at0: above },
  thermistor: { ohms: must(pairOf(finite((n) => n.greater(0)))) },
  potentiometer: { ohms: above, mostExcitation: volts },
  pulse: { gives: must(gives), mostHz: above, perPulse: above },
});

const supply = must(
  shape<{ readonly low: number; readonly high: number; readonly preferred: number }>({
    low: must(finite((n) => n.min(0).max(60))),
    high: must(finite((n) => n.greater(0).max(60))),
    preferred: must(finite((n) => n.greater(0).max(60))),
  }),
);
const leads = must(
  listOf(
    shape<{ readonly colour: string; readonly signal: Signal }>({
      colour: must(name(30)),
      signal: must(oneOf<Signal>()(...signals)),
    }),
    (a) => a.max(24),
  ),
);
const cautions = must(listOf(words(1), (a) => a.max(10)));
const head = {
  code: must(textThat(oneWord)),
  revision: whole(1, 9999),
  name: must(name(80)),
};

const ability = unionBy<Ability>()('does', {
  supply: { volts: must(orNull(finite())), most: amperes, switched: must(yesNo()) },
  ground: { reference: must(name(30)) },
  shield: {},
  excitation: { volts, most: amperes },
  analog: {
    ranges: must(listOf(pairOf(finite()), (a) => a.min(1).max(12))),
    bits: whole(6, 32),
    inputResistance: above,
    pair: must(orNull(name(12))),
    reference: must(name(30)),
  },
  current: { shunt: above, bits: whole(6, 32), reference: must(name(30)) },
  pulse: { takes: must(listOf(gives, (a) => a.min(1))), mostHz: above },
  'data+': {},
  'data−': {},
  'sdi-12': {},
  chain: {},
  data: { logic: volts, pullUp },
  clock: { logic: volts, pullUp },
});
const portBus = unionBy<PortBus>()('kind', {
  'modbus-rtu': { unitLoads: above, biased: must(yesNo()), terminated: must(yesNo()) },
  'sdi-12': { sensors: whole(1, 62), metres: above },
  'daisy-chain': {
    system: must(name(30)),
    perStrand: whole(1, 500),
    perUnit: whole(1, 500),
    metresPerStrand: above,
    metresInAll: above,
    builtIn: whole(0, 16),
  },
  i2c: { metres: above },
});
const port = shape<LoggerPort>({
  name: must(name(30)),
  bus: must(orNull(portBus)),
  socket: must(
    orNull(shape<NonNullable<LoggerPort['socket']>>({ type: must(name(30)), keyed: must(yesNo()) })),
  ),
  terminals: must(
    listOf(
      shape<Terminal>({
        label: must(name(12)),
        abilities: must(listOf(ability, (a) => a.min(1).max(8))),
      }),
      (a) => a.min(1).max(64),
    ),
  ),
});

export const deviceProfile = unionBy<DeviceProfile>()('kind', {
  sensor: {
    ...head,
    connection: must(connection),
    supply,
    current: amperes,
    warmUp: must(finite((n) => n.min(0).max(3600))),
    leads,
    plug: must(
      orNull(
        shape<Plug>({
          type: must(name(30)),
          keyed: must(yesNo()),
          pins: must(
            listOf(shape<Plug['pins'][number]>({ pin: must(name(12)), lead: must(name(30)) }), (a) =>
              a.min(1).max(24),
            ),
          ),
        }),
      ),
    ),
    outputs: must(listOf(output, (a) => a.min(1).max(64))),
    part: shape<ReplaceablePart>({
      name: must(name(30)),
      bears: must(listOf(textThat(oneWord), (a) => a.min(1).max(16))),
      goodFor: number((n) => n.integer().min(1).max(7_300)),
      register: whole(0, 65_535),
      coefficients: must(
        listOf(
          shape<ReplaceablePart['coefficients'][number]>({ name: must(name(20)), low: any, high: any }),
          (a) => a.min(1).max(16),
        ),
      ),
      storeRegister: must(orNull(number((n) => n.integer().min(0).max(65_535)))),
    }),
    placing: must(
      shape<Placing>({
        height: must(orNull(pairOf(finite()))),
        clearOf: must(
          listOf(
            shape<Placing['clearOf'][number]>({
              of: must(oneOf<Disturbance>()(...disturbances)),
              metres: above,
            }),
            (a) => a.max(10),
          ),
        ),
        tilt: must(orNull(finite((n) => n.min(0).max(90)))),
      }),
    ),
    immersible: yesNo(),
    ownTilt: shape<NonNullable<SensorProfile['ownTilt']>>({
      fn: must(oneOf<3 | 4>()(3, 4)),
      address: whole(0, 65_535),
      perDegree: above,
    }),
    hosts: must(
      listOf(
        shape<HostPlace>({
          label: must(name(30)),
          takes: must(listOf(connectionKind, (a) => a.min(1))),
          most: whole(1, 16),
          screws: must(
            listOf(shape<HostPlace['screws'][number]>({ mark: must(name(12)), lead: must(name(30)) }), (a) =>
              a.min(1).max(16),
            ),
          ),
        }),
        (a) => a.max(8),
      ),
    ),
    needsHost: must(orNull(name(30))),
    excludes: must(listOf(quantity, (a) => a.max(20))),
    mounting: must(listOf(words(1), (a) => a.max(20))),
    cautions,
  },
  logger: {
    ...head,
    driver: must(oneOf<'http' | 'file-link'>()('http', 'file-link')),
    supply,
    sleeps: amperes,
    works: amperes,
    channels: whole(1, 64),
    memory: whole(1, 1e9),
    standAlone,
    own: shape<OwnAbilities>({
      idLength: whole(1, 64),
      nameLength: whole(1, 64),
      activates: must(listOf(name(12), (a) => a.max(32).unique())),
    }),
    keeps: oneOf<'when told'>()('when told'),
    takes: listOf(oneOf<LoggerWay>()(...loggerWays), (a) => a.min(1).max(3).unique()),
    offsets: listOf(shape<OffsetTaken>({ quantity: must(quantity), step: above, most: above }), (a) =>
      a.max(40),
    ),
    restarts: shape<Restarts>({
      seconds: must(finite((n) => n.greater(0).max(600))),
      outputs: must(oneOf<Restarts['outputs']>()('none', 'hold', 'off')),
    }),
    ports: must(listOf(port, (a) => a.min(1).max(40))),
    cautions,
  },
  gateway: {
    ...head,
    carries: must(listOf(connectionKind, (a) => a.min(1))),
    framing: must(oneOf<'rtu' | 'tcp' | 'sdi-12'>()('rtu', 'tcp', 'sdi-12')),
    control: oneOf<'rfc2217'>()('rfc2217'),
    supply,
    current: amperes,
    cautions,
  },
  accessory: {
    ...head,
    does: must(
      unionBy<AccessoryProfile['does']>()('as', {
        shunt: { ohms: above },
        terminator: { ohms: above },
        completion: { ohms: above },
        'reducing-ring': { perPulse: above },
        'splice-block': { places: whole(1, 64) },
        'patch-cable': { plug: must(name(30)), pins: whole(1, 64), crossed: must(yesNo()) },
      }),
    ),
    cautions,
  },
  board: { ...head, logic: volts, supply, current: amperes, leads, mains: must(yesNo()), cautions },
});
