import {
  practiceMoveNames,
  practicePowerNames,
  type PracticeFault,
  type PracticeMove,
  type PracticePower,
  type PracticeView,
  type Practise,
} from '@/contract/practice';
import type { SerialSettings } from '@/core/bus/serial';
import { serialDifferences } from '@/core/bus/serial';
import { habitNames, type Habit } from '@/core/check/habits';
import { resolveAllowed } from '@/devices/address';
import { practiceStand, type StandSensor } from '@/devices/practiceStand';
import type { Context } from '../context';
import { badField, Problem } from '../problem';

/**
 * The practice stand's hidden screws, for whoever teaches or learns. Only where the application was started with
 * a stand (`PRACTICE_STAND`): nothing of a real device is touched.
 */
export const practiceIsThere = (): boolean => Boolean(process.env.PRACTICE_STAND);

const other: SerialSettings = { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 };

async function stand(ctx: Context) {
  const address = process.env.PRACTICE_STAND;
  if (!address)
    throw new Problem({
      code: 'no-practice-stand',
      status: 404,
      title: 'No practice stand',
      detail: 'This installation has no practice stand.',
      remedy: 'Practise in the demo.',
    });
  return practiceStand(await resolveAllowed(address, ctx.deviceAllow));
}

/** Every serial line of the stand: who hangs there, what is wrong, what a meter would show. */
export async function practiceView(ctx: Context): Promise<PracticeView> {
  const at = await stand(ctx);
  const [all, handhelds] = await Promise.all([at.loggers(), at.handhelds()]);
  const loggers = all.filter((l) => l.sensors.some((s) => s.busId !== null));
  return {
    handhelds,
    launched: all.flatMap((l) =>
      l.launched ? [{ station: l.station, logger: l.serial, where: l.launched.where }] : [],
    ),
    forgetful: all.flatMap((l) =>
      l.forgetful ? [{ station: l.station, logger: l.serial, ...l.forgetful }] : [],
    ),
    lines: await Promise.all(
      loggers.map(async (l) => ({
        station: l.station,
        logger: l.serial,
        sensors: await Promise.all(
          l.sensors
            .filter((s) => s.busId !== null)
            .map(async (s) => ({
              serial: s.serial,
              busId: s.busId!,
              wrong: wrongWith(s, l.busSerial, l.lifted ?? []),
              media: s.media ?? [],
              medium: s.medium ?? null,
              ...(await at.atSensor(s.serial)),
            })),
        ),
      })),
    ),
  };
}

const wrongWith = (s: StandSensor, line: SerialSettings, lifted: readonly string[]): string[] =>
  [
    serialDifferences(s.serialSettings, line).length > 0 && 'at another speed',
    s.swapped && 'pair swapped',
    s.open && 'pair open',
    s.pairVolts != null && `${s.pairVolts} V on its pair`,
    !s.powered ? 'no supply' : s.supplyVolts !== undefined && s.supplyVolts !== null && `${s.supplyVolts} V`,
    s.protocol && s.protocol !== 'modbus' && 'another protocol',
    s.dead && 'dead',
    (s.tilt ?? 0) > 1 && `tilted ${s.tilt}°`,
    lifted.includes(s.serial) && 'leads lifted',
  ].filter((w): w is string => typeof w === 'string');

/** Makes one thing go wrong with a sensor of the stand, or right again. */
export async function practise(ctx: Context, { serial, fault, medium }: Practise): Promise<{ done: true }> {
  const at = await stand(ctx);
  if (isHabit(fault)) return hold(at, serial, fault === 'as it should be' ? null : fault);
  if (isMove(fault)) return move(at, serial, fault);
  if (isPower(fault)) return offAndOn(at, serial);
  const logger = (await at.loggers()).find((l) => l.sensors.some((s) => s.serial === serial));
  const sensor = logger?.sensors.find((s) => s.serial === serial);
  if (!logger || !sensor || sensor.busId === null)
    throw badField(
      'unknown-sensor',
      'serial',
      serial,
      `The stand has no sensor ${serial} on a serial line.`,
      'Choose one from the list.',
    );
  if (fault === 'into') return putInto(at, sensor, medium ?? null);
  const others = logger.sensors.filter((s) => s.serial !== serial && s.busId !== null);
  const set = (of: Record<string, unknown>) => ({ sensor: { serial, set: of } });
  const lift = (lifted: readonly string[]) => ({ bus: { station: logger.station, lifted } });
  const free = [17, 23, 31].find((id) => logger.sensors.every((s) => s.busId !== id))!;
  const orders: Record<PracticeFault, unknown> = {
    sound: set({
      serialSettings: logger.busSerial,
      swapped: false,
      open: false,
      pairVolts: null,
      powered: true,
      supplyVolts: null,
      protocol: 'modbus',
      dead: false,
      tilt: 0.4,
    }),
    speed: set({ serialSettings: other }),
    swapped: set({ swapped: true }),
    open: set({ open: true }),
    voltage: set({ pairVolts: 24 }),
    supply: set({ supplyVolts: 5.8 }),
    dark: set({ powered: false }),
    id: set({ busId: free }),
    duplicate: set({ busId: others[0]?.busId ?? sensor.busId }),
    protocol: set({ protocol: 'text' }),
    dead: set({ dead: true }),
    tilted: set({ tilt: 5 }),
    part: { sensor: { serial, newPart: 'another' } },
    'power-cycle': { sensor: { serial, powerCycle: true } },
    alone: lift(others.map((s) => s.serial)),
    lifted: lift([serial]),
    together: lift([]),
  };
  if (fault === 'part' && (await at.atSensor(serial)).label === null)
    throw badField(
      'no-part',
      'fault',
      fault,
      `${serial} has no part that is replaced.`,
      'Choose another fault.',
    );
  await at.obey(orders[fault]);
  return { done: true };
}

async function putInto(
  at: ReturnType<typeof practiceStand>,
  { serial, media = [] }: StandSensor,
  medium: string | null,
): Promise<{ done: true }> {
  if (medium !== null && !media.includes(medium))
    throw badField(
      'unknown-medium',
      'medium',
      medium,
      `${serial} measures nothing of ${medium}.`,
      `Choose ${media.join(', ') || 'another sensor'}.`,
    );
  await at.obey({ sensor: { serial, medium } });
  return { done: true };
}

const isHabit = (fault: Practise['fault']): fault is Habit | 'as it should be' =>
  fault === 'as it should be' || (habitNames as readonly string[]).includes(fault);

async function hold(
  at: ReturnType<typeof practiceStand>,
  serial: string,
  habit: Habit | null,
): Promise<{ done: true }> {
  if (!(await at.handhelds()).some((h) => h.serial === serial))
    throw badField(
      'unknown-handheld',
      'serial',
      serial,
      `The stand has no handheld ${serial}.`,
      'Choose one from the list.',
    );
  await at.obey({ handheld: { serial, habit } });
  return { done: true };
}

type NotOfHandheld = Exclude<Practise['fault'], Habit | 'as it should be'>;

const isMove = (fault: NotOfHandheld): fault is PracticeMove =>
  (practiceMoveNames as readonly string[]).includes(fault);

const isPower = (fault: Exclude<NotOfHandheld, PracticeMove>): fault is PracticePower =>
  (practicePowerNames as readonly string[]).includes(fault);

async function offAndOn(at: ReturnType<typeof practiceStand>, serial: string): Promise<{ done: true }> {
  const logger = (await at.loggers()).find((l) => l.serial === serial && l.forgetful);
  if (!logger)
    throw badField(
      'unknown-logger',
      'serial',
      serial,
      `The stand has no logger ${serial} that forgets.`,
      'Choose one from the list.',
    );
  await at.obey({ logger: { station: logger.station, powerCycle: true } });
  return { done: true };
}

async function move(
  at: ReturnType<typeof practiceStand>,
  serial: string,
  to: PracticeMove,
): Promise<{ done: true }> {
  const logger = (await at.loggers()).find((l) => l.serial === serial && l.launched);
  if (!logger)
    throw badField(
      'unknown-logger',
      'serial',
      serial,
      `The stand has no logger ${serial} that is launched.`,
      'Choose one from the list.',
    );
  const orders: Record<PracticeMove, object> = {
    bench: { carry: { place: 'Bench' } },
    van: { carry: { place: 'Van' } },
    place: { carry: { place: null } },
    button: { press: true },
    battery: { battery: true },
  };
  await at.obey({ logger: { station: logger.station, ...orders[to] } });
  return { done: true };
}
