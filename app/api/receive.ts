import { deviceTimeHeader, type DeviceTime } from '@/contract/deviceClock';
import {
  actingPersonHeader,
  fieldWriteAddress,
  largestTogether,
  sendTogether,
  type FieldWrite,
  type FieldWriteKind,
  type TakenTogether,
} from '@/contract/fieldWrites';
import { requirePermission } from '@/server/account/permission';
import type { Context, Person } from '@/server/context';
import { Problem } from '@/server/problem';
import { DoneAlready, isDone } from '@/server/station/atStation';
import { jsonBody } from './boundedBody';
import { keyOf, once, type Answered } from './once';
import {
  contextOf,
  deviceTimeOf,
  idsOf,
  problemBody,
  signedWrite,
  validate,
  type Handler,
  type Params,
} from './respond';

/** A field write as it came, alone or with others. */
export interface Sent {
  readonly key: string;
  readonly params: Params;
  readonly body: unknown;
  readonly device: DeviceTime | null;
  /** Id of whoever did it, where that is said. */
  readonly acting: string | null;
}
export interface Receiver extends Handler {
  /** Takes one of somebody who is signed in. */
  readonly take: (person: Person, sent: Sent) => Promise<Answered>;
}

/**
 * A writing handler of what can be done away from the desk: what its declaration says of it, whose it is, and
 * once, even where what was done is known and its answer was lost.
 */
export function receive<Body>(
  write: FieldWrite<Body>,
  act: (ctx: Context, body: Body, params: Params) => Promise<unknown>,
  status = 200,
): Receiver {
  const { permission, schema } = write;
  const take: Receiver['take'] = async (person, { key, params, body: sent, device, acting }) => {
    // Before what they may: what is another's waits for them.
    requireActingPerson(person, acting);
    requirePermission(person, permission);
    const body = validate(schema, sent);
    const ctx = { ...contextOf(person), device, actKey: keyOf(key) };
    const route = `${write.method} ${fieldWriteAddress(write, params)}`;
    return once(ctx, { key, route, body, isKnownByKey: true }, async () => {
      const stationId = params.stationId ?? (body as { stationId?: string }).stationId ?? '';
      // A first look spares what was done a judgement of how things are now; the sure one is at the station.
      if (await isDone(ctx.db, stationId, key)) return { status, answer: already };
      try {
        return { status, answer: await act(ctx, body, params) };
      } catch (error) {
        if (error instanceof DoneAlready) return { status, answer: already };
        throw error;
      }
    });
  };
  const handle = signedWrite(async (person, request, params) =>
    take(person, {
      key: request.headers.get('idempotency-key') ?? '',
      params,
      body: await jsonBody(request, write.largest),
      device: deviceTimeOf(request.headers.get(deviceTimeHeader)),
      acting: request.headers.get(actingPersonHeader),
    }),
  );
  return Object.assign(handle, { take, asks: { permission, schema, field: true } });
}

/** Takes several in their order, each as if it came alone; the first that is not taken ends it. */
export function receiveTogether(receivers: Readonly<Record<FieldWriteKind, Receiver>>): Handler {
  const handle = signedWrite(async (person, request) => {
    const { writes } = validate(sendTogether, await jsonBody(request, largestTogether));
    const outcomes: TakenTogether['outcomes'][number][] = [];
    for (const { kind, key, params, body, device, person: acting } of writes) {
      try {
        const sent = { key, params: idsOf({ ...params }), body, device, acting };
        outcomes.push({ answer: (await receivers[kind].take(person, sent)).answer });
      } catch (error) {
        outcomes.push({ problem: problemBody(error) });
        break;
      }
    }
    return { status: 200, answer: { outcomes } satisfies TakenTogether };
  });
  return Object.assign(handle, { asks: { permission: 'view', schema: sendTogether } });
}

const already = { already: true };

/** What somebody did is not taken as another's who signed in on the same device since. */
function requireActingPerson(person: Person, acting: string | null): void {
  if (acting === null || acting === person.id) return;
  throw new Problem({
    code: 'other-person',
    status: 409,
    title: 'Somebody else’s',
    detail: `This was done by somebody else; ${person.initials} is signed in now.`,
    remedy: 'Whoever did it signs in on this device; it is kept until then.',
  });
}
