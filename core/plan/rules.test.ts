import { readFileSync } from 'node:fs';
import type { LoggerProfile } from '../device/loggerProfile';
import type { SensorProfile } from '../device/profile';
import { shipped, shippedProfile } from '@/catalogue/profiles';
import { catalogue, catalogueWith, device, on, planOf } from '@/test/plan';
import { checkPlan } from './check';
import type { Profiles } from './context';
import type { Plan, PlannedDevice } from './plan';
import { planRules, type PlanRuleId } from './rules';
import { rulesTable } from './rulesTable';

/**
 * Each rule fires once and just does not once. Sums are worked by hand beside them; a published source is named
 * where there is one, all else is common practice without one.
 */
interface Case {
  readonly fires: Plan;
  readonly quiet: Plan;
  /** Part of the sum. */
  readonly sum?: string;
  readonly profiles?: Profiles;
}

const b4 = 'brannoch-b4';
const b8 = 'brannoch-b8';
const at24 = { supply: { volts: 24, most: 5, batteryAh: null, solarWh: null, daysWanted: 5 } };
const change = <T extends SensorProfile | LoggerProfile>(of: T, to: Partial<T>): T => ({ ...of, ...to });
const sensor = (code: string, to: Partial<SensorProfile>) => change(shippedProfile(code)!, to);
const logger = (code: string, to: Partial<LoggerProfile>) => change(shipped('logger', code)!, to);

/** RS-485 sensors as they are landed on port 1. */
const th = (id: number, more: Partial<PlannedDevice> = {}) =>
  device(
    'quern-th3',
    { brown: '1 V+', white: '2 V−', green: '3 D+', yellow: '4 D−', bare: '6 SH' },
    { id: `th${id}`, name: `Room ${id}`, busId: id, ...more },
  );
const sdi = (id: string, more: Partial<PlannedDevice> = {}) =>
  device(
    'noust-s3',
    { russet: '7 S+', cream: '8 S−', teal: '9 SD' },
    { id: `s${id}`, name: `Bed ${id}`, busAddress: id, ...more },
  );
const x1 = (input: string, more: Partial<PlannedDevice> = {}) =>
  device(
    'kelda-x1',
    { red: 'SW', black: 'AG1', yellow: input },
    { id: input, name: `Source ${input}`, ...more },
  );
const p4 = (more: Partial<PlannedDevice> = {}) => device('ness-p4', { amber: 'SW', navy: 'A1' }, more);
const t1 = (more: Partial<PlannedDevice> = {}) => device('noust-t1', { copper: 'VX1', ivory: 'A1' }, more);
const rain = (more: Partial<PlannedDevice> = {}) => device('ayre-r2', { straw: 'P1', umber: 'PG' }, more);
const chained = (line: number, n: number, metres = 5, code = 'hask-a1') =>
  Array.from({ length: n }, (_, i) =>
    device(
      code,
      { plum: `L${line}+`, grey: `L${line}−`, lime: `L${line}D` },
      { id: `${line}.${i}`, name: `Rack ${line}.${i}`, cable: { metres, ohmsPerKm: 20, run: null } },
    ),
  );
const hask = (devices: PlannedDevice[]) => planOf('hask-h1', devices, at24);
const light = (code: string, data: string, clock: string, more: Partial<PlannedDevice> = {}) =>
  device(
    code,
    { red: '3V3', black: 'GND1', yellow: data, blue: clock, white: 'GND2' },
    { id: code + data, ...more },
  );
const pins = (devices: PlannedDevice[], metres = 0.3) =>
  planOf(
    'tyst-c3',
    devices.map((d) => ({ ...d, cable: { metres, ohmsPerKm: 84.2, run: null } })),
    { supply: { volts: 5, most: 2, batteryAh: null, solarWh: null, daysWanted: 1 } },
  );
const wet = (
  host: Record<string, string>,
  leads: Record<string, string>,
  more: Partial<PlannedDevice> = {},
) => [device('ayre-r2', { straw: 'P1', umber: 'PG', ...host }), device('ayre-w1', leads, more)];
const wetLeads = { lime: 'SW', violet: 'AG1', grey: 'A1' };
const screws = { white: 'ayre-r2:F1', black: 'ayre-r2:F2', tan: 'ayre-r2:F3' };
const cases: Record<PlanRuleId, Case> = {
  'mains-logic': {
    fires: pins([device('tyst-m1', { red: '3V3', black: 'GND1', white: 'D1' })]),
    quiet: pins([
      device(
        'tyst-m1',
        { red: '3V3', black: 'GND1', white: 'D1' },
        { isolatedBy: 'the electrician, 12 May' },
      ),
      device('tyst-r1', {}),
    ]),
  },
  'profile-missing': {
    fires: planOf(b4, [device('quern-th3', {}, { profile: { code: 'quern-th3', revision: 2 } })]),
    quiet: planOf(b4, [device('quern-th3')]),
  },
  // The logger was swapped for a smaller one meanwhile: A9 is a terminal of the larger.
  'terminal-missing': { fires: planOf(b4, [x1('A9')]), quiet: planOf(b8, [x1('A9')]) },
  'lead-unfit': {
    fires: planOf(b4, [th(1, { landings: on({ green: '4 D−', yellow: '3 D+' }) })]),
    quiet: planOf(b4, [th(1)]),
  },
  'terminal-shared': {
    fires: planOf(b4, [x1('A1'), { ...x1('A1'), id: 'other' }]),
    quiet: planOf(b4, [x1('A1'), x1('A2')]),
    sum: '2 leads > 1',
  },
  'lead-open': {
    fires: planOf(b4, [device('kelda-x1', { red: 'SW', yellow: 'A1' })]),
    quiet: planOf(b4, [x1('A1')]),
    sum: '2 of 3 landed',
  },
  // Six analog inputs, six taken; the seventh has none.
  'inputs-taken': {
    fires: planOf(b4, [
      ...['A1', 'A2', 'A3', 'A4', 'A5', 'A6'].map((a) => x1(a)),
      device('kelda-x1', {}, { id: '7' }),
    ]),
    quiet: planOf(b4, [
      ...['A1', 'A2', 'A3', 'A4', 'A5'].map((a) => x1(a)),
      device('kelda-x1', {}, { id: '6' }),
    ]),
    sum: '6 inputs, 6 taken',
  },
  'splice-open': {
    fires: planOf(b4, [device('kelda-x1', { red: '=S1', black: 'AG1', yellow: 'A1' })], {
      splices: [{ name: 'S1', terminal: null }],
    }),
    quiet: planOf(b4, [device('kelda-x1', { red: '=S1', black: 'AG1', yellow: 'A1' })], {
      splices: [{ name: 'S1', terminal: 'SW' }],
    }),
  },
  'plug-elsewhere': {
    fires: hask(chained(1, 1)),
    quiet: planOf('noust-n2', [device('hask-a1')]),
    sum: '2 sockets > 1',
    profiles: catalogueWith(
      sensor('hask-a1', { plug: { ...shippedProfile('hask-a1')!.plug!, keyed: false } }),
    ),
  },
  'host-needed': {
    fires: planOf(b4, wet({}, { white: 'SW', black: 'AG1', tan: 'A1' })),
    quiet: planOf(b4, wet(wetLeads, screws)),
  },
  'host-full': {
    fires: planOf(b4, [...wet(wetLeads, screws), device('ayre-w1', screws, { id: 'second' })]),
    quiet: planOf(b4, wet(wetLeads, screws)),
    sum: '2 > 1',
  },
  // No external rain gauge where one is built in.
  'accessory-excluded': {
    fires: planOf(b4, [device('skua-m4'), rain()]),
    quiet: planOf(b4, [device('skua-m4'), device('skua-c1')]),
  },
  // Sixteen channels: eight sensors of two outputs fill them, a ninth is too many.
  'channels-exceeded': {
    fires: planOf(
      b4,
      Array.from({ length: 9 }, (_, i) => th(i + 1)),
    ),
    quiet: planOf(
      b4,
      Array.from({ length: 8 }, (_, i) => th(i + 1)),
    ),
    sum: '18 > 16',
  },
  'output-unmapped': {
    fires: planOf(b4, [th(1, { mapped: ['humidity'] })]),
    quiet: planOf(b4, [th(1)]),
    sum: '1 of 2 mapped',
  },
  // 0–10 V on an input of 5 V; the same on one of 10 V.
  'signal-over-range': {
    fires: planOf(b4, [device('kelda-f1', { yellow: 'A1' })]),
    quiet: planOf(b8, [device('kelda-f1', { yellow: 'A1' })]),
    sum: '10 V > 5 V',
  },
  'logic-over-range': {
    fires: pins([device('geo-h2', { red: '5V', black: 'GND1', yellow: 'D1', blue: 'D2' })]),
    quiet: pins([light('geo-l1b', 'D1', 'D2')]),
    sum: '5 V ≠ 3.3 V',
  },
  'current-without-shunt': {
    fires: planOf(b4, [device('ness-p4', { amber: 'SW', navy: 'A3' })], at24),
    quiet: planOf(
      b4,
      [device('ness-p4', { amber: 'SW', navy: 'A3' }, { accessories: [{ code: 'link-s100', revision: 1 }] })],
      at24,
    ),
  },
  // 12 V − 22 mA × (2 × 100 m × 84.2 Ω/km + 100 Ω) = 12 − 0.022 × 116.84 = 9.43 V < 9.5 V; at 90 m 9.467.
  'loop-voltage': {
    fires: planOf(b4, [p4({ cable: { metres: 100, ohmsPerKm: 84.2, run: null } })]),
    quiet: planOf(b4, [p4({ cable: { metres: 80, ohmsPerKm: 84.2, run: null } })]),
    sum: '12 V − 22 mA × (16.8 + 100) Ω = 9.43 V < 9.5 V',
  },
  'excitation-missing': {
    fires: planOf(b4, [device('noust-t1', { copper: 'SW', ivory: 'A1' })]),
    quiet: planOf(b4, [t1()]),
  },
  'excitation-high': {
    fires: planOf(b8, [device('noust-t1', { copper: 'VX2', ivory: 'A1' })]),
    quiet: planOf(b8, [device('noust-t1', { copper: 'VX1', ivory: 'A1' })]),
    sum: '5 V > 4 V',
    profiles: catalogueWith(
      sensor('noust-t1', {
        connection: {
          kind: 'half-bridge',
          fixed: { in: 'logger', ohms: 10_000 },
          ohms: [1800, 80_000],
          mostExcitation: 4,
        },
      }),
    ),
  },
  'input-differential': {
    fires: planOf(b4, [device('skua-i1', { white: 'A1', green: 'A3' })]),
    quiet: planOf(b4, [device('skua-i1', { white: 'A1', green: 'A2' })]),
  },
  // 150 MΩ into 10 MΩ: 15/16 of the voltage is lost. 100 Ω into 10 MΩ: 1 ÷ 100 001.
  'source-resistance': {
    fires: planOf(b4, [device('tarrow-p1', { clear: 'A1', bare: 'A2' })]),
    quiet: planOf(b8, [device('quern-c1', { yellow: 'A1' })]),
    sum: '150000000 ÷ (150000000 + 10000000) × 14 = 13.1 pH > 0.05 pH',
  },
  // 3.3 V in 10 bits is 3.2 mV; over 2.5 V for 60 °C that is 0.077 °C, a quarter of ±0.3 °C is 0.075.
  resolution: {
    fires: pins([device('noust-t1', { ivory: 'IN1' })]),
    quiet: planOf(b4, [t1()]),
    sum: '3.3 V ÷ 2^10 ×',
    profiles: catalogueWith(
      sensor('noust-t1', {
        connection: { kind: 'voltage', low: 0, high: 2.5, sourceResistance: 100, differential: false },
        outputs: [{ ...shippedProfile('noust-t1')!.outputs[0]!, range: [0, 60] }],
      }),
    ),
  },
  // check-value: 2 Ω on a Pt100 is 5.1 °C. 2 × 50 m × 84.2 Ω/km = 8.42 Ω ÷ 3.885 Ω/°C (IEC 60751, 20 °C) = 2.17 °C; half of ±0.4 is 0.2.
  'lead-error': {
    fires: planOf(b4, [
      device('noust-p2', { red: 'A1', white: 'A2' }, { cable: { metres: 50, ohmsPerKm: 84.2, run: null } }),
    ]),
    quiet: planOf(b4, [
      device('noust-p2', { red: 'A1', white: 'A2' }, { cable: { metres: 4, ohmsPerKm: 84.2, run: null } }),
    ]),
    sum: '2 × 50 m × 84.2 Ω/km = 8.42 Ω → 2.17 °C',
  },
  'clamp-scale': {
    fires: planOf(b4, [device('lum-a1', { white: 'A1', black: 'A2' }, { fullScale: 100 })]),
    quiet: planOf(b4, [device('lum-a1', { white: 'A1', black: 'A2' }, { fullScale: 50 })]),
    sum: 'true × 100 ÷ 50 = true × 2',
  },
  'logger-supply': { fires: planOf(b4, [], at24), quiet: planOf(b8, [], at24), sum: '24 V outside 9.6–16 V' },
  // ASTM B258 (from memory): AWG 22 52.96 Ω/km. 100 m out and back at 120 mA drop 1.27 V: 12 V − 1.27 = 10.73 V.
  'supply-low': {
    fires: planOf(b4, [th(1, { cable: { metres: 100, ohmsPerKm: 52.96, run: null } })]),
    quiet: planOf(b4, [th(1, { cable: { metres: 99, ohmsPerKm: 52.96, run: null } })]),
    sum: '12 − 120 mA × 10.6 Ω = 10.73 V < 10.74 V',
    profiles: catalogueWith(
      sensor('quern-th3', { current: 0.12, supply: { low: 10.74, high: 28, preferred: 12 } }),
    ),
  },
  'supply-high': {
    fires: planOf(b8, [sdi('1', { landings: on({ russet: '21 S+' }) })], at24),
    quiet: planOf(b8, [sdi('1', { landings: on({ russet: '21 S+' }) })]),
    sum: '24 V > 16 V',
  },
  // 0.4 A on S+: 44 × 9 mA = 396 mA, 45 × 9 = 405.
  'supply-current': {
    fires: planOf(
      b4,
      Array.from({ length: 45 }, (_, i) => sdi(String(i))),
    ),
    quiet: planOf(
      b4,
      Array.from({ length: 44 }, (_, i) => sdi(String(i))),
    ),
    sum: '= 405 mA > 400 mA',
  },
  // 85 mA + the logger's 45 mA = 130 mA.
  'source-current': {
    fires: planOf(b4, [device('tarrow-w5')], { supply: { ...at24.supply, volts: 12, most: 0.129 } }),
    quiet: planOf(b4, [device('tarrow-w5')], { supply: { ...at24.supply, volts: 12, most: 0.131 } }),
    sum: '85 + 45 = 130 mA > 129 mA',
  },
  // Nothing but the logger asleep and awake 0.5 s of 60 s: (2 × 59.5/60 + 45 × 0.5/60) mA × 12 V × 24 h = 0.679 Wh; 0.5 × 0.56 Ah × 12 V ÷ 0.679 = 4.95 d.
  'battery-autonomy': {
    fires: planOf(b4, [], { supply: { volts: 12, most: 1, batteryAh: 0.56, solarWh: null, daysWanted: 5 } }),
    quiet: planOf(b4, [], { supply: { volts: 12, most: 1, batteryAh: 0.57, solarWh: null, daysWanted: 5 } }),
    sum: '0.56 Ah × 12 V × 0.5 ÷ 0.68 Wh = 4.95 d < 5 d',
  },
  // 1.3 × 0.679 Wh = 0.883 Wh.
  'solar-margin': {
    fires: planOf(b4, [], { supply: { volts: 12, most: 1, batteryAh: 7, solarWh: 0.88, daysWanted: 5 } }),
    quiet: planOf(b4, [], { supply: { volts: 12, most: 1, batteryAh: 7, solarWh: 0.89, daysWanted: 5 } }),
    sum: '0.88 ÷ 0.68 = 1.3 < 1.3',
  },
  'shield-two-ends': {
    fires: planOf(b4, [th(1, { earthedAtSensor: true })]),
    quiet: planOf(b4, [th(1)]),
    sum: '2 earths > 1',
  },
  'shield-open': {
    fires: planOf(b4, [p4()]),
    quiet: planOf(b4, [p4({ earthedAtSensor: true })]),
    sum: '0 earths < 1',
  },
  'earths-differ': {
    fires: planOf(b4, [device('kelda-x1', { red: 'SW', black: '2 V−', yellow: 'A1' })]),
    quiet: planOf(b4, [x1('A1')]),
    sum: 'earth ≠ analog earth',
  },
  'bus-id': {
    fires: planOf(b4, [th(1), { ...th(1), id: 'b' }]),
    quiet: planOf(b4, [th(1), th(2)]),
    sum: '2 × ID 1',
  },
  'rs485-parameters': {
    fires: planOf(b4, [th(1, { line: { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 } })]),
    quiet: planOf(b4, [th(1)]),
    sum: '9600 8N1 ≠ 19200 8E1',
  },
  // TIA-485: 32 unit loads (from memory). 0.125 each and 1 of the logger: 248 make 32, 249 more.
  'rs485-unit-loads': {
    fires: planOf(
      b4,
      Array.from({ length: 249 }, (_, i) => th(i)),
    ),
    quiet: planOf(
      b4,
      Array.from({ length: 248 }, (_, i) => th(i)),
    ),
    sum: '31.1 + 1 = 32.1 > 32',
  },
  // At 115 200 baud 10⁸ ÷ 115 200 = 868 m; at 19 200 the 1200 m of TIA-485 (from memory).
  'rs485-length': {
    fires: planOf(b4, [th(1, { cable: { metres: 1201, ohmsPerKm: 1, run: null } })]),
    quiet: planOf(b4, [th(1, { cable: { metres: 1200, ohmsPerKm: 1, run: null } })]),
    sum: '1201 m > min(1200, 10⁸ ÷ 19200) = 1200 m',
  },
  // A bit at 19 200 baud is 52 083 ns: 2 × 521 m × 5 ns = 5210 ns are more than a tenth, 2 × 520 × 5 = 5200 not.
  'rs485-termination': {
    fires: planOf(b4, [th(1, { cable: { metres: 521, ohmsPerKm: 1, run: null } })]),
    quiet: planOf(b4, [th(1, { cable: { metres: 520, ohmsPerKm: 1, run: null } })]),
    sum: '2 × 521 m × 5 ns = 5210 ns > 0.1 × 52083 ns; 0 of 2',
  },
  'rs485-biasing': {
    fires: planOf(b4, [th(1)], { ports: [{ ...planOf(b4, []).ports[0]!, terminators: 2 }] }),
    quiet: planOf(b4, [th(1)]),
    profiles: catalogueWith(
      logger(b4, {
        ports: shipped('logger', b4)!.ports.map((p) =>
          p.bus?.kind === 'modbus-rtu' ? { ...p, bus: { ...p.bus, biased: false } } : p,
        ),
      }),
    ),
  },
  'sdi12-address': {
    fires: planOf(b4, [sdi('a'), { ...sdi('a'), id: 'b' }]),
    quiet: planOf(b4, [sdi('a'), sdi('A')]),
    sum: '2 × address a',
  },
  'sdi12-length': {
    fires: planOf(b4, [sdi('1', { cable: { metres: 66, ohmsPerKm: 20, run: null } })]),
    quiet: planOf(b4, [sdi('1', { cable: { metres: 65, ohmsPerKm: 20, run: null } })]),
    sum: '66 m > 65 m',
  },
  'i2c-address': {
    fires: pins([light('geo-l1', 'D1', 'D2', { id: 'a' }), light('geo-l1b', 'D1', 'D2', { id: 'b' })]),
    quiet: pins([
      light('geo-l1', 'D1', 'D2', { id: 'a' }),
      light('geo-l1b', 'D1', 'D2', { id: 'b', busAddress: '0x39' }),
    ]),
    sum: '2 × 0x29',
  },
  'i2c-pull-ups': {
    fires: pins([light('geo-l1', 'D1', 'D2')]),
    quiet: pins([
      light('geo-l1', 'D1', 'D2', { id: 'a' }),
      light('geo-l1b', 'D1', 'D2', { busAddress: '0x39' }),
    ]),
    sum: '0 pull-ups',
  },
  'i2c-length': {
    fires: pins([light('geo-l1b', 'D1', 'D2')], 1.1),
    quiet: pins([light('geo-l1b', 'D1', 'D2')], 1),
    sum: '1.1 m > 1 m',
  },
  'chain-system': {
    fires: hask(chained(1, 1)),
    quiet: hask(chained(1, 1).map((d) => ({ ...d, landings: {} }))),
    profiles: catalogueWith(
      sensor('hask-a1', { connection: { kind: 'daisy-chain', system: 'Other line', countsAs: 1 } }),
    ),
  },
  // Twelve on a strand, one of them built in: eleven fit.
  'chain-strand': {
    fires: hask(chained(1, 12)),
    quiet: hask(chained(1, 11)),
    sum: '12 + 1 built in = 13 > 12',
  },
  // Twenty on the unit, one built in: 10 + 9 fit. A unit that counts as two: 10 + 5 × 2 are too many.
  'chain-unit': {
    fires: hask([...chained(1, 10), ...chained(2, 5, 5, 'hask-m2')]),
    quiet: hask([...chained(1, 10), ...chained(2, 9)]),
    sum: '20 + 1 built in = 21 > 20',
  },
  // 90 m a strand, 160 m in all: 2 × 80 m fit, 2 × 81 m do not, though each strand does.
  'chain-length': {
    fires: hask([...chained(1, 9, 9), ...chained(2, 9, 9)]),
    quiet: hask([...chained(1, 10, 8), ...chained(2, 10, 8)]),
    sum: '162 m > 160 m',
  },
  // SDI-12: C takes 9 s, then text: 9.48 s; one in 10 s is more than 80 %.
  'bus-time': {
    fires: planOf(b4, [device('tarrow-t1', { teal: '9 SD' }, { busAddress: '0' })], { measureEvery: 11 }),
    quiet: planOf(b4, [device('tarrow-t1', { teal: '9 SD' }, { busAddress: '0' })], { measureEvery: 12 }),
    sum: '9.48 s > 0.8 × 11 s',
  },
  // A ring makes 0.1 mm of 0.25 mm: with 0.25 mm set every total is 2.5 times as large.
  'pulse-resolution': {
    fires: planOf(b4, [rain({ accessories: [{ code: 'ayre-k1', revision: 1 }] })]),
    quiet: planOf(b4, [rain({ accessories: [{ code: 'ayre-k1', revision: 1 }], perPulse: 0.1 })]),
    sum: 'true × 0.25 ÷ 0.1 = true × 2.5',
  },
  'pulse-input': {
    fires: planOf('noust-n2', [device('skua-c1', { white: 'PU' })]),
    quiet: planOf('noust-n2', [device('ayre-r2', { straw: 'PU' })]),
  },
  'mounting-height': {
    fires: planOf(b4, [device('fulmar-s1', {}, { height: 10.5 })]),
    quiet: planOf(b4, [device('fulmar-s1', {}, { height: 10 })]),
    sum: '10.5 m outside 2–10 m',
  },
  'too-near': {
    fires: planOf(b4, [device('harrow-k2', {}, { near: [{ of: 'inverter', metres: 1.4 }] })]),
    quiet: planOf(b4, [device('harrow-k2', {}, { near: [{ of: 'inverter', metres: 1.5 }] })]),
    sum: '1.4 m < 1.5 m',
  },
  tilted: {
    fires: planOf(b4, [device('ness-l2', {}, { tilt: 2.5 })]),
    quiet: planOf(b4, [device('ness-l2', {}, { tilt: 2 })]),
    sum: '2.5° > 2°',
  },
  'redundancy-height': {
    fires: planOf(b4, [th(1, { name: 'Store', height: 1 }), th(2, { name: 'Store', height: 1.2 })]),
    quiet: planOf(b4, [th(1, { name: 'Store', height: 1 }), th(2, { name: 'Store', height: 1.3 })]),
    sum: '0.2 m < 0.3 m',
  },
  // Common practice, no source: 43 000 readings, three channels, every 5 min → 49.8 days.
  'memory-days': {
    fires: planOf(
      'noust-n2',
      ['a', 'b', 'c'].map((id) => device('ayre-r2', {}, { id })),
      {
        storeEvery: 300,
        visitEvery: 50,
      },
    ),
    quiet: planOf(
      'noust-n2',
      ['a', 'b', 'c'].map((id) => device('ayre-r2', {}, { id })),
      {
        storeEvery: 300,
        visitEvery: 49,
      },
    ),
    sum: '43000 readings ÷ 3 channels × 300 s = 49.8 d < 50 d',
    profiles: catalogueWith(logger('noust-n2', { memory: 43_000 })),
  },
  'leads-alike': {
    fires: planOf(b4, [device('quern-th3')]),
    quiet: planOf(b4, [device('hask-a1')]),
    sum: 'white/yellow: 11',
  },
};

describe.each(Object.entries(cases))('%s', (id, { fires, quiet, sum, profiles = catalogue }) => {
  const of = (plan: Plan) => checkPlan(plan, profiles).filter((f) => f.rule === id);
  test('fires', () => {
    const found = of(fires);
    expect(found.map((f) => f.rule)).toContain(id);
    if (sum !== undefined) expect(found.map((f) => f.sum).join(' | ')).toContain(sum);
    for (const f of found) {
      // A plain sentence, a remedy, and places that are there.
      expect(f.text).toMatch(/^[A-Z0-9][^]*[.]$/);
      expect(f.remedy).toMatch(/^[A-Z].*[.]$/);
      expect(f.text).not.toMatch(/undefined|null|NaN/);
    }
  });
  test('just does not', () => expect(of(quiet)).toEqual([]));
});

test('every rule has its id, its sum and its source', () => {
  const ids = planRules.map((r) => r.id);
  expect(new Set(ids).size).toBe(ids.length);
  for (const r of planRules) {
    expect([r.id, r.sum.length > 10, r.source.length > 10]).toEqual([r.id, true, true]);
    expect(r.id).toMatch(/^[a-z0-9-]+$/);
  }
});

test('the wetness grid in the funnel is read through the spare leads of its host', () => {
  expect(
    checkPlan(planOf(b4, wet(wetLeads, screws)), catalogue)
      .filter((f) => f.severity !== 'hint')
      .map((f) => f.text),
  ).toEqual([]);
});

test('docs/plan-rules.md shows the rules as they are', () => {
  const plain = (table: string) =>
    table
      .split('\n')
      .filter((l) => l.startsWith('|'))
      .map((l) => l.split(/(?<!\\)\|/).map((cell) => cell.trim().replace(/^-+$/, '---')));
  expect(plain(readFileSync('docs/plan-rules.md', 'utf8'))).toEqual(plain(rulesTable(planRules)));
});
