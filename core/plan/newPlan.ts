import { repeated, type Refusal, type SensorProfile } from '../device/profile';
import type { BoardProfile } from '../device/equipment';
import type { LoggerProfile } from '../device/loggerProfile';
import { outputOf } from '../device/profile';
import type { Profiles } from './context';
import { pinName, type Plan, type PlannedDevice } from './plan';

/** Ω/km of one conductor of 0.25 mm² copper, what thin sensor cable has. Source: IEC 60228, class 5 0.25 mm² about 78; 24 AWG 84.2 (both from memory). */
const usualCable = 84.2;

/**
 * A device of a model, nothing of it landed: all its outputs mapped, 10 m of cable.
 *
 * @param id its own, made by the caller
 */
export const plannedDevice = (
  id: string,
  profile: SensorProfile | BoardProfile,
  name: string,
): PlannedDevice => ({
  id,
  profile: { code: profile.code, revision: profile.revision },
  name,
  serial: null,
  busId: null,
  busAddress: null,
  line:
    profile.kind === 'sensor' && profile.connection.kind === 'modbus-rtu' ? profile.connection.serial : null,
  cable: { metres: 10, ohmsPerKm: usualCable, run: null },
  landings: {},
  accessories: [],
  earthedAtSensor: false,
  height: null,
  tilt: null,
  near: [],
  mapped: profile.kind === 'sensor' ? profile.outputs.map((o) => o.key) : [],
  perPulse: null,
  fullScale: null,
  isolatedBy: null,
});

/**
 * A plan around a logger with nothing on it.
 *
 * @param volts its supply, V
 * @param ports what its serial lines are set to, by name
 */
export const emptyPlan = (
  logger: Pick<LoggerProfile, 'code' | 'revision' | 'ports'>,
  volts: number,
  ports: ReadonlyMap<string, Plan['ports'][number]['line']>,
): Plan => ({
  logger: { code: logger.code, revision: logger.revision },
  supply: { volts, most: 3, batteryAh: null, solarWh: null, daysWanted: 5 },
  measureEvery: 60,
  storeEvery: 600,
  visitEvery: 60,
  ports: logger.ports
    .filter((p) => p.bus?.kind === 'modbus-rtu')
    .map((p) => ({ name: p.name, line: ports.get(p.name) ?? null, terminators: 0 })),
  runs: [],
  splices: [],
  devices: [],
  accepted: [],
});

/** What makes a plan unreadable rather than wrong: names that repeat, leads or outputs a model does not have. Null for nothing. */
export function refusePlan(plan: Plan, profiles: Profiles): Refusal | null {
  const refuse = (field: string, value: unknown, detail: string): Refusal => ({
    field,
    value,
    detail,
    remedy: 'Correct the plan.',
  });
  const id = repeated(plan.devices.map((d) => d.id));
  if (id) return refuse('devices', id, `Two sensors of the plan have the id ${id}.`);
  const splice = repeated(plan.splices.map((s) => s.name));
  if (splice) return refuse('splices', splice, `Two splices are called ${splice}.`);
  const run = repeated(plan.runs.map((r) => r.name));
  if (run) return refuse('runs', run, `Two runs of cable are called ${run}.`);
  const serial = repeated(plan.devices.flatMap((d) => d.serial ?? []));
  if (serial) return refuse('devices', serial, `Two sensors of the plan have the serial number ${serial}.`);
  for (const d of plan.devices) {
    const profile = profiles.get(pinName(d.profile));
    if (profile?.kind !== 'sensor' && profile?.kind !== 'board') continue;
    const lead = Object.keys(d.landings).find((c) => !profile.leads.some((l) => l.colour === c));
    if (lead) return refuse('landings', lead, `${d.name}: a ${profile.name} has no ${lead} lead.`);
    if (profile.kind !== 'sensor') continue;
    const output = d.mapped.find((key) => !outputOf(profile, key));
    if (output) return refuse('mapped', output, `${d.name}: a ${profile.name} has no output ${output}.`);
  }
  return null;
}

/** What differs between two plans, in words: for the one who is told that somebody saved meanwhile. */
export function planDifferences(mine: Plan, theirs: Plan): readonly string[] {
  const said: string[] = [];
  const my = new Map(mine.devices.map((d) => [d.id, d]));
  const other = new Map(theirs.devices.map((d) => [d.id, d]));
  for (const [id, d] of other) {
    const own = my.get(id);
    if (!own) {
      said.push(`they have ${d.name}, you do not`);
      continue;
    }
    const colours = new Set([...Object.keys(own.landings), ...Object.keys(d.landings)]);
    for (const c of colours) {
      const [a, b] = [placeText(own.landings[c]), placeText(d.landings[c])];
      if (a !== b) said.push(`${d.name}, ${c} lead: yours ${a}, theirs ${b}`);
    }
    const rest = (x: PlannedDevice) => JSON.stringify({ ...x, landings: null });
    if (rest(own) !== rest(d)) said.push(`${d.name}: other settings`);
  }
  for (const [id, d] of my) if (!other.has(id)) said.push(`you have ${d.name}, they do not`);
  const whole = (p: Plan) => JSON.stringify({ ...p, devices: null, accepted: null });
  if (whole(mine) !== whole(theirs)) said.push('supply, intervals, ports, runs or splices differ');
  if (JSON.stringify(mine.accepted) !== JSON.stringify(theirs.accepted))
    said.push('accepted findings differ');
  return said;
}

/**
 * Where a lead ends, in words.
 *
 * @example placeText({ at: 'terminal', terminal: 'A1' }) // 'A1'
 */
export function placeText(place: PlannedDevice['landings'][string] | undefined): string {
  switch (place?.at) {
    case undefined:
      return 'nowhere';
    case 'terminal':
      return place.terminal;
    case 'splice':
      return `splice ${place.splice}`;
    case 'host':
      return `screw ${place.screw}`;
  }
}
