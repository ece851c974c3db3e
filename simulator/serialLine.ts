import { serialDifferences, serialOfWord, serialWord, type SerialSettings } from '@/core/bus/serial';
import { crcFits, rtuFrame } from '@/core/bus/modbusRtu';
import { readServiceLine, sayAsFound, serviceLine } from '@/core/bus/serviceLine';
import { shippedProfile } from '@/catalogue/profiles';
import { outputWord } from './inputs';
import { simNow } from './logger';
import { partLabel, partRegister, tellPart } from './part';
import { hasPower, isOnLine, managementOf, sensorsAt } from './sensorValue';
import type { SimLogger, SimSensor, SimState } from './state';

/** What hangs on the RS-485 line, and what comes back when somebody talks on it. */

/** Speed and parity of the gateway. */
export const gatewaySerial = (logger: SimLogger): SerialSettings => logger.gatewaySerial ?? logger.busSerial;

/** Two that talk at once: where either pulls the pair low it is low, and the second began a little later. */
export function collided(answers: readonly Uint8Array[]): Uint8Array {
  const length = Math.max(...answers.map((a) => a.length));
  return Uint8Array.from({ length }, (_, i) =>
    answers.reduce((byte, a, n) => byte & ((a[i - (n > 0 ? 1 : 0)] ?? 0xff) | (n > 0 ? 0x11 : 0)), 0xff),
  );
}

/** What comes back on the line for the bytes that were sent; null for silence. */
export function answerTo(state: SimState, logger: SimLogger, sent: Uint8Array): Uint8Array | null {
  const answers = sent[0] === 0x7e ? serviceAnswers(logger, sent) : modbusAnswers(state, logger, sent);
  if (answers.length === 0) return null;
  return answers.length === 1 ? answers[0]! : collided(answers);
}

function modbusAnswers(state: SimState, logger: SimLogger, frame: Uint8Array): Uint8Array[] {
  if (frame.length < 8 || !crcFits(frame)) return [];
  return sensorsAt(logger, frame[0]!, gatewaySerial(logger)).map((s) => modbusAnswer(state, s, frame));
}

function modbusAnswer(state: SimState, sensor: SimSensor, frame: Uint8Array): Uint8Array {
  const [unit, fn] = [frame[0]!, frame[1]!];
  const exception = (code: number) => rtuFrame(unit, Uint8Array.from([fn | 0x80, code]));
  const word = (i: number) => (frame[i]! << 8) | frame[i + 1]!;
  const address = word(2);
  if (fn === 6) {
    const refused = take(sensor, address, word(4));
    return refused === null ? frame.slice(0, 8) : exception(refused);
  }
  if (fn === 16) {
    const words = Array.from({ length: word(4) }, (_, i) => word(7 + 2 * i));
    for (const [i, value] of words.entries()) {
      const refused = take(sensor, address + i, value);
      if (refused !== null) return exception(refused);
    }
    return rtuFrame(unit, frame.slice(1, 6));
  }
  if (fn !== 3 && fn !== 4) return exception(1);
  const count = word(4);
  if (count < 1 || count > 125) return exception(3);
  const words: number[] = [];
  for (let i = 0; i < count; i++) {
    const value =
      (fn === 3 ? setting(sensor, address + i) : null) ??
      outputWord(state, sensor, fn, address + i, simNow(state)) ??
      tiltWord(sensor, fn, address + i);
    if (value === null) return exception(2);
    words.push(value >> 8, value & 0xff);
  }
  return rtuFrame(unit, Uint8Array.from([fn, words.length, ...words]));
}

/** Models without a description of their own have their ID in register 40, too. */
const registers = (sensor: SimSensor) =>
  managementOf(sensor) ?? { idRegister: 40, serialRegister: null, storeRegister: null };

/** What a register of its settings holds; null for one that is none. */
function setting(sensor: SimSensor, address: number): number | null {
  const { idRegister, serialRegister } = registers(sensor);
  if (address === idRegister) return sensor.busId;
  if (address === serialRegister) return serialWord(sensor.serialSettings);
  return partRegister(sensor, address);
}

/** How far it hangs from the vertical, where it says so; null for another register. */
function tiltWord(sensor: SimSensor, fn: number, address: number): number | null {
  const own = shippedProfile(sensor.model)?.ownTilt;
  return own && own.fn === fn && own.address === address
    ? Math.round((sensor.tilt ?? 0.4) * own.perDegree)
    : null;
}

/** Takes a word into a register of its settings; the code of its refusal, or null. The answer still goes out as before. */
function take(sensor: SimSensor, address: number, value: number): number | null {
  const { idRegister, serialRegister, storeRegister } = registers(sensor);
  // A model that has to be told to keep them comes up as before until it is.
  const change = (to: Partial<Pick<SimSensor, 'busId' | 'serialSettings'>>) => {
    if (storeRegister !== null) sensor.stored ??= asSet(sensor);
    Object.assign(sensor, to);
    return null;
  };
  if (address === idRegister) return value >= 1 && value <= 247 ? change({ busId: value }) : 3;
  if (address === serialRegister) {
    const serialSettings = serialOfWord(value);
    return serialSettings ? change({ serialSettings }) : 3;
  }
  if (tellPart(sensor, address, value)) return null;
  if (address !== storeRegister) return 2;
  if (value !== 1) return 3;
  delete sensor.stored;
  return null;
}

const asSet = ({ busId, serialSettings, protocol = 'modbus' }: SimSensor) => ({
  busId,
  serialSettings,
  protocol,
});

/** Takes power away and gives it back: what was not stored is gone, and the service window opens. */
export function powerCycle(sensor: SimSensor): void {
  if (sensor.part) sensor.part.told = [...sensor.part.stored];
  if (sensor.stored) Object.assign(sensor, sensor.stored);
  delete sensor.stored;
  delete sensor.inService;
  sensor.poweredAt = Date.now();
}

function serviceAnswers(logger: SimLogger, sent: Uint8Array): Uint8Array[] {
  const line = readServiceLine(sent);
  if (line.kind !== 'text') return [];
  const serial = gatewaySerial(logger);
  return logger.sensors.flatMap((s) => {
    const service = managementOf(s)?.service;
    if (!service || !isOnLine(logger, s) || serialDifferences(serial, service.serial).length > 0) return [];
    // The window is a matter of the wall clock: a person's hands take the power away.
    if (!s.inService && Date.now() - (s.poweredAt ?? 0) > service.window * 1000) return [];
    s.inService = true;
    return [Buffer.from(serviceLine(obeyService(s, line.text)), 'ascii')];
  });
}

function obeyService(sensor: SimSensor, text: string): string {
  if (text === 'Q')
    return sayAsFound({
      model: sensor.model,
      serialNumber: sensor.serial,
      firmware: '1.3',
      busId: sensor.busId ?? 0,
      serial: sensor.serialSettings,
      protocol: sensor.protocol ?? 'modbus',
    });
  if (text === 'W') {
    delete sensor.stored;
    return 'w';
  }
  if (text === 'E') {
    delete sensor.inService;
    delete sensor.poweredAt;
    return 'e';
  }
  const m = /^S (id|baud|data|parity|stop|protocol)=(\w+)$/.exec(text);
  if (!m) return 'x no such order';
  sensor.stored ??= asSet(sensor);
  const [, field, value] = m as unknown as [string, string, string];
  const { serialSettings: held } = sensor;
  switch (field) {
    case 'id':
      if (!(Number(value) >= 1 && Number(value) <= 247)) return 'x an id is 1 to 247';
      sensor.busId = Number(value);
      break;
    case 'baud':
      sensor.serialSettings = { ...held, baud: Number(value) };
      break;
    case 'data':
      sensor.serialSettings = { ...held, dataBits: Number(value) as 7 | 8 };
      break;
    case 'parity':
      sensor.serialSettings = { ...held, parity: value as SerialSettings['parity'] };
      break;
    case 'stop':
      sensor.serialSettings = { ...held, stopBits: Number(value) as 1 | 2 };
      break;
    default:
      sensor.protocol = value;
  }
  return `s ${field}=${value}`;
}

/** What a meter and a pair of eyes find at a sensor's terminals. */
export interface AtTheSensor {
  /** V at its supply terminals. */
  readonly supply: number;
  /** V from + to − of its pair, nobody talking. */
  readonly idle: number;
  readonly light: 'on' | 'off' | null;
  /** What the label of the part in it says; null where it has none. */
  readonly label: readonly number[] | null;
}

export function atTheSensor(logger: SimLogger, sensor: SimSensor): AtTheSensor {
  const polarity = sensor.swapped ? -1 : 1;
  const biased = !sensor.open && !logger.lifted?.includes(sensor.serial);
  return {
    supply: !sensor.powered
      ? 0.2
      : (sensor.supplyVolts ?? shippedProfile(sensor.model)?.supply.preferred ?? 12),
    idle: sensor.pairVolts ?? (biased ? 0.31 * polarity : 0.01),
    light: managementOf(sensor)?.light ? (hasPower(sensor) && !sensor.dead ? 'on' : 'off') : null,
    label: partLabel(sensor),
  };
}
