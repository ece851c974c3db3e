import type { PhotographsView } from '@/contract/photographs';
import { Refusal, refuseHere } from '../shared/api';
import { pictureAddress } from '../photograph/pictureText';
import { addressesOf, of, ofNoStop } from './addresses';
import {
  holdAnswers,
  holdStop,
  type HeldAnswer,
  type HeldPicture,
  type HeldStop,
  type TakenDb,
} from './store';

/** So many pictures of a stop are taken along, newest first, in small. */
const mostPictures = 40;
/** What is asked of the application, and of the device. */
export interface TakingAlong {
  readonly ask: (address: string) => Promise<unknown>;
  readonly picture: (address: string) => Promise<Blob>;
  /** Room that is left, bytes; null where the device does not say. */
  readonly room: () => Promise<number | null>;
  /** Keeps the shell on the device; false where that does not succeed. */
  readonly shell: () => Promise<boolean>;
  readonly now: () => string;
  readonly contractVersion: string;
}

/**
 * Room a stop may take, bytes, before it is known: views some 150 kB, pictures some 20 kB each. Then what is
 * left has to hold what is done on site, pictures above all.
 */
const stopRoom = 150_000 + mostPictures * 20_000;
const roomForActs = 20e6;

/** Refuses what would not fit, before anything is asked for. */
export async function requireRoom(stops: number, taking: Pick<TakingAlong, 'room'>): Promise<void> {
  const room = await taking.room();
  const needed = stops * stopRoom + roomForActs;
  if (room === null || room >= needed) return;
  throw refuseHere(
    'no-room',
    'device',
    `This device has room for ${(room / 1e6).toFixed(1)} MB more; ${stops} ${stops === 1 ? 'stop needs' : 'stops need'} about ${(needed / 1e6).toFixed(1)} MB, with room for pictures.`,
    'Free some, or take fewer stops along.',
  );
}

/** Refuses where nothing could open what is held. */
export async function requireShell({ shell }: Pick<TakingAlong, 'shell'>): Promise<void> {
  if (await shell()) return;
  throw refuseHere(
    'no-shell',
    'device',
    'The application’s own pages could not be kept on this device: without a signal nothing would open what is held.',
    'Try again where the signal is better. If it stays so, this browser keeps no pages: it may be in private mode, or the address may lack HTTPS.',
  );
}

/** A failed storing, said as what it is. */
const outOfRoom = (code: string): Refusal =>
  refuseHere(
    'no-room',
    'device',
    `This device ran out of room while ${code} was being held; what was held of it before is still there.`,
    'Free some room, or let another stop go, and take it along again.',
  );

/** Asks for all views of a stop and holds them, wholly or not at all. */
export async function takeStopAlong(
  db: TakenDb,
  person: string,
  { stop, rank }: Pick<HeldStop, 'stop' | 'rank'>,
  taking: TakingAlong,
): Promise<HeldStop> {
  const { stationId } = stop;
  const takenAt = taking.now();
  const answers = new Map<string, unknown>();
  // What one answer says may ask for more: open checks, the traces of the channels.
  for (let next = addressesOf(stationId, answers); next.length > 0;) {
    const bodies = await Promise.all(next.map((address) => askFor(address, taking)));
    next.forEach((address, i) => answers.set(address, bodies[i]));
    next = addressesOf(stationId, answers).filter((a) => !answers.has(a));
  }
  const photographs = answers.get(of(stationId).photographs) as PhotographsView | undefined;
  const pictures = await Promise.all(
    (photographs?.photographs ?? []).slice(0, mostPictures).map(async ({ id }): Promise<HeldPicture> => {
      const address = pictureAddress(stationId, id, 'small');
      return { person, stationId, address, picture: await taking.picture(address) };
    }),
  );
  const held = [...answers].flatMap(([address, body]) =>
    body === undefined ? [] : [answerOf(person, stationId, address, body, takenAt, taking)],
  );
  const bytes =
    held.reduce((n, a) => n + JSON.stringify(a.body).length, 0) +
    pictures.reduce((n, p) => n + p.picture.size, 0);
  const kept = { person, stationId, stop, rank, takenAt, bytes };
  try {
    await holdStop(db, { stop: kept, answers: held, pictures });
  } catch {
    throw outOfRoom(stop.code);
  }
  return kept;
}

/** Holds what belongs to no stop. */
export async function takeRestAlong(db: TakenDb, person: string, taking: TakingAlong): Promise<void> {
  const takenAt = taking.now();
  const bodies = await Promise.all(ofNoStop.map((address) => taking.ask(address)));
  await holdAnswers(
    db,
    ofNoStop.map((address, i) => answerOf(person, '', address, bodies[i], takenAt, taking)),
  );
}

const answerOf = (
  person: string,
  stationId: string,
  address: string,
  body: unknown,
  takenAt: string,
  { contractVersion }: TakingAlong,
): HeldAnswer => ({ person, stationId, address, body, takenAt, contractVersion });

/** What a stop does not have is not held; what could not be asked ends it. */
async function askFor(address: string, { ask }: TakingAlong): Promise<unknown> {
  try {
    return await ask(address);
  } catch (error) {
    if (error instanceof Refusal && [404, 409, 422].includes(error.problem.status)) return undefined;
    throw error;
  }
}
