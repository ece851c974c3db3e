import http from 'node:http';
import { shippedProfile } from '@/catalogue/profiles';
import { readBy, type Habit } from '@/core/check/habits';
import { decimalsOf, roundTo } from '@/core/quantity/format';
import type { QuantityCode } from '@/core/quantity/quantity';
import { loggerProfile } from './inputs';
import { mediaFor, mediumAt, mediumOf, mediumPlace } from './media';
import { loggerTime, simNow } from './logger';
import { scatter } from './noise';
import { powerCycleLogger } from './ownSettings';
import { putPart } from './part';
import { placeAt, sensorValue, truthAt } from './sensorValue';
import { atTheSensor, powerCycle } from './serialLine';
import { changeBattery, pressButton } from './standAlone';
import type { BusFault, SensorTruth, SimClock, SimLogger, SimSensor, SimState } from './state';
import type { Climate } from './world';

/**
 * The practice stand: where a learner or a test turns the hidden screws, and where the practice
 * handhelds show their display. Not part of any real device.
 */
export interface LabOrder {
  readonly clock?: SimClock;
  readonly sensor?: {
    serial: string;
    quantity?: QuantityCode;
    truth?: SensorTruth;
    set?: SensorFaults;
    /** Power taken away and given back. */
    powerCycle?: boolean;
    /** Put into a medium, or, null, back where it measures. */
    medium?: string | null;
    /** Another part put in, by the coefficients on its label. */
    newPart?: number[] | 'another';
  };
  readonly bus?: {
    station: string;
    fault?: BusFault | null;
    /** Serial numbers of those whose data leads are lifted. */
    lifted?: string[];
  };
  readonly logger?: {
    station: string;
    clock?: SimLogger['clock'];
    offsetResponse?: { channel: number; value: number };
    /** Carried with its sensors to a place, or, null, to where it measures; its button pressed; a new battery. */
    carry?: { place: string | null };
    press?: boolean;
    battery?: boolean;
    /** Its power taken away and given back. */
    powerCycle?: boolean;
    /** Its lead taken off the data line on which an adapter speaks, or put back. */
    adapterAlone?: boolean;
  };
  /** How whoever holds a handheld reads it; null for as it should be. */
  readonly handheld?: { serial: string; habit: Habit | null };
  readonly place?: { name: string; quantity: QuantityCode; climate: Climate };
  /** How the receivers of messages fail; null for not at all. */
  readonly sinks?: NonNullable<SimState['sinkFaults']>;
}

/** What can be wrong with a sensor on its line. */
export type SensorFaults = Partial<
  Pick<
    SimSensor,
    | 'busId'
    | 'powered'
    | 'serialSettings'
    | 'swapped'
    | 'open'
    | 'pairVolts'
    | 'dead'
    | 'protocol'
    | 'supplyVolts'
    | 'tilt'
  >
>;

/** Puts a sensor into a medium of the stand, or back where it measures. */
export function putInto(state: SimState, sensor: SimSensor, medium: string | null): void {
  const place = medium === null ? null : mediumPlace(medium);
  if (place !== null && !mediumAt(place)) throw new Error(`no medium ${medium}`);
  sensor.carried = [...(sensor.carried ?? []), { from: simNow(state), place }];
}

/** Carries out one order; throws with a plain sentence when it names something that is not there. */
export function obey(state: SimState, order: LabOrder): void {
  const logger = (station: string) => {
    const found = state.loggers.find((l) => l.station === station);
    if (!found) throw new Error(`no logger at ${station}`);
    return found;
  };
  if (order.clock) state.clock = order.clock;
  if (order.sinks) state.sinkFaults = { ...state.sinkFaults, ...order.sinks };
  if (order.sensor) {
    const { serial, quantity, truth, set, powerCycle: cycle } = order.sensor;
    const sensor = state.loggers.flatMap((l) => l.sensors).find((s) => s.serial === serial);
    if (!sensor) throw new Error(`no sensor ${serial}`);
    if (quantity && truth) sensor.truths[quantity] = truth;
    Object.assign(sensor, set ?? {});
    if (cycle) powerCycle(sensor);
    if (order.sensor.medium !== undefined) putInto(state, sensor, order.sensor.medium);
    if (order.sensor.newPart) putPart(sensor, order.sensor.newPart);
  }
  if (order.bus) {
    const { station, fault, lifted } = order.bus;
    const target = logger(station);
    if (fault !== undefined) target.busFault = fault;
    if (lifted) target.lifted = lifted;
  }
  if (order.logger) {
    const target = logger(order.logger.station);
    if (order.logger.clock) target.clock = order.logger.clock;
    const { carry, press, battery } = order.logger;
    if (carry)
      for (const sensor of target.sensors)
        sensor.carried = [...(sensor.carried ?? []), { from: simNow(state), place: carry.place }];
    if (press) pressButton(state, target);
    if (battery) changeBattery(state, target);
    if (target.adapter && order.logger.adapterAlone !== undefined)
      target.adapter.alone = order.logger.adapterAlone;
    if (order.logger.powerCycle) powerCycleLogger(target, simNow(state));
    const response = order.logger.offsetResponse;
    const channel = target.channels.find((c) => c.number === response?.channel);
    if (response && channel) channel.offsetResponse = response.value;
  }
  if (order.handheld) {
    const { serial, habit } = order.handheld;
    const handheld = state.handhelds.find((h) => h.serial === serial);
    if (!handheld) throw new Error(`no handheld ${serial}`);
    if (habit) handheld.habit = habit;
    else delete handheld.habit;
  }
  if (order.place) {
    const { name, quantity, climate } = order.place;
    state.places[name] = { ...state.places[name], [quantity]: climate };
  }
}

/** What a practice handheld shows when held at a place: truth, its own hidden error, its resolution. */
export function handheldDisplay(
  state: SimState,
  serial: string,
  place: string,
  ms: number,
): Partial<Record<QuantityCode, number>> | null {
  const handheld = state.handhelds.find((h) => h.serial === serial);
  if (!handheld) return null;
  const shown: Partial<Record<QuantityCode, number>> = {};
  for (const [code, q] of Object.entries(handheld.quantities) as [
    QuantityCode,
    { error: number; resolution: number; noise: number },
  ][]) {
    const truth = truthAt(state, place, code, ms);
    if (!Number.isFinite(truth)) continue;
    const value = handheld.habit
      ? readBy(handheld.habit, code, truth, inAnotherZone(state, place, code, ms))
      : truth;
    const noisy = value + q.error + q.noise * scatter(`${serial}/${code}`, Math.floor(ms / 1000));
    shown[code] = roundTo(Math.round(noisy / q.resolution) * q.resolution, decimalsOf(q.resolution));
  }
  return shown;
}

/** Where a handheld is that is held beside the sensor of a zone: in its medium, where it was put into one. */
export function besideSensor(state: SimState, zone: string, ms: number): string {
  const there = new Set(
    state.loggers.flatMap((l) => l.sensors.filter((s) => s.place === zone).map((s) => placeAt(s, ms))),
  );
  return there.size === 1 ? [...there][0]! : zone;
}

/** How it is in the next zone of the same station; null where there is no other. */
function inAnotherZone(state: SimState, place: string, code: QuantityCode, ms: number): number | null {
  const [station] = place.split('/');
  const other = Object.keys(state.places).find(
    (p) => p !== place && p.startsWith(`${station}/`) && state.places[p]![code],
  );
  return other === undefined ? null : truthAt(state, other, code, ms);
}

export function serveLab(state: SimState, saved: () => void): http.Server {
  return http.createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://lab');
    const send = (status: number, body: unknown) => {
      response.writeHead(status, { 'content-type': 'application/json' });
      response.end(JSON.stringify(body));
    };
    const handheld = /^\/handheld\/([\w-]+)$/.exec(url.pathname);
    if (request.method === 'GET' && handheld) {
      const at = Number(url.searchParams.get('at') ?? simNow(state));
      const place = besideSensor(state, url.searchParams.get('place') ?? '', at);
      const shown = handheldDisplay(state, handheld[1]!, place, at);
      return shown ? send(200, shown) : send(404, { error: 'no such handheld' });
    }
    if (request.method === 'GET' && url.pathname === '/lab/sensor') {
      const sensor = state.loggers
        .flatMap((l) => l.sensors)
        .find((s) => s.serial === url.searchParams.get('serial'));
      const quantity = url.searchParams.get('quantity') as QuantityCode;
      const at = Number(url.searchParams.get('at') ?? simNow(state));
      return sensor
        ? send(200, {
            value: sensorValue(state, sensor, quantity, at),
            truth: truthAt(state, sensor.place, quantity, at),
          })
        : send(404, { error: 'no such sensor' });
    }
    if (request.method === 'GET' && url.pathname === '/lab/at-sensor') {
      const serial = url.searchParams.get('serial');
      const logger = state.loggers.find((l) => l.sensors.some((s) => s.serial === serial));
      const sensor = logger?.sensors.find((s) => s.serial === serial);
      return logger && sensor
        ? send(200, atTheSensor(logger, sensor))
        : send(404, { error: 'no such sensor' });
    }
    if (request.method === 'GET' && url.pathname === '/lab/received') return send(200, state.received ?? []);
    if (request.method === 'GET' && url.pathname === '/lab')
      return send(200, {
        now: simNow(state),
        handhelds: state.handhelds.map((h) => ({ serial: h.serial, habit: h.habit ?? null })),
        loggers: state.loggers.map((l) => ({
          station: l.station,
          serial: l.serial,
          http: l.ownPort,
          bus: l.busPort,
          clock: loggerTime(l, simNow(state)),
          busSerial: l.busSerial,
          lifted: l.lifted ?? [],
          sensors: l.sensors.map((s) => ({
            ...s,
            media: mediaFor((shippedProfile(s.model)?.outputs ?? []).map((o) => o.quantity)),
            medium: mediumOf(placeAt(s, simNow(state))),
          })),
          busFault: l.busFault,
          forgetful: loggerProfile(l)?.keeps === 'when told' ? { loses: l.stored !== undefined } : null,
          launched: l.made ? { where: l.sensors[0]?.carried?.at(-1)?.place ?? null } : null,
        })),
      });
    if ((request.method === 'POST' || request.method === 'PUT') && url.pathname === '/lab') {
      const parts: Buffer[] = [];
      request.on('data', (p: Buffer) => parts.push(p));
      request.on('end', () => {
        try {
          obey(state, JSON.parse(Buffer.concat(parts).toString('utf8')) as LabOrder);
          saved();
          send(200, { done: true });
        } catch (error) {
          send(422, { error: (error as Error).message });
        }
      });
      return;
    }
    send(404, { error: 'no such resource' });
  });
}
