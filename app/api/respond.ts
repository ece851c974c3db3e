import { createHash } from 'node:crypto';
import type Joi from 'joi';
import { NextResponse, type NextRequest } from 'next/server';
import { deviceTimeHeader, parseDeviceTime, serverTimeHeader, type DeviceTime } from '@/contract/deviceClock';
import { actingPersonHeader, type FieldWrite } from '@/contract/fieldWrites';
import type { Permission } from '@/contract/permission';
import type { ProblemBody } from '@/contract/problem';
import { judgeBody } from '@/contract/validate';
import { database, row } from '@/db/database';
import { failureOf, type Failure } from '@/db/failure';
import { requirePermission } from '@/server/account/permission';
import { personOfSession } from '@/server/account/signIn';
import type { Context, Person } from '@/server/context';
import { log } from '@/server/process/log';
import { badField, inTheWay, notFound, Problem } from '@/server/problem';
import { DoneAlready, isDone } from '@/server/station/atStation';
import { jsonBody } from './boundedBody';

/** The one way in for route handlers: session, origin, schema, permission, one use-case, an answer. */

export const sessionCookie = 'oc_session';
export const sessionToken = (request: NextRequest): string => request.cookies.get(sessionCookie)?.value ?? '';

type Params = Record<string, string>;
type RouteContext = { params: Promise<Params | undefined> };
type Handler = (request: NextRequest, route: RouteContext) => Promise<Response>;

/** Ids in addresses: any UUID; those made by the caller are of version 7. */
const anyUuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;
const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/;

export function contextOf(person: Person): Context {
  return { db: database(), person, now: () => new Date(), deviceAllow: process.env.DEVICE_ALLOW ?? '' };
}

async function signedIn(request: NextRequest): Promise<Person> {
  const token = sessionToken(request);
  const person = token ? await personOfSession(database(), token) : null;
  if (!person)
    throw new Problem({
      code: 'signed-out',
      status: 401,
      title: 'Not signed in',
      detail: 'You are not signed in, or your session has ended.',
      remedy: 'Sign in again; what is on this screen stays.',
    });
  return person;
}

/**
 * A GET handler: what it returns is sent as JSON, unless it is a Response already. Whoever asks again and
 * has the same answer still is told so in a line (304), as polling pages do.
 */
export function read(
  permission: Permission,
  handler: (ctx: Context, request: NextRequest, params: Params) => Promise<unknown>,
): Handler {
  return guarded(async (request, params) => {
    const person = await signedIn(request);
    requirePermission(person, permission);
    const answer = await handler(contextOf(person), request, params);
    if (answer instanceof Response) return answer;
    const text = JSON.stringify(answer);
    const etag = `"${createHash('sha256').update(text).digest('base64url').slice(0, 27)}"`;
    const headers = { etag, 'cache-control': 'private, no-cache' };
    if (request.headers.get('if-none-match') === etag)
      return new NextResponse(null, { status: 304, headers });
    return new NextResponse(text, { headers: { ...headers, 'content-type': 'application/json' } });
  });
}

type WriteHandler<Body> = (
  ctx: Context,
  body: Body,
  params: Params,
  request: NextRequest,
) => Promise<unknown>;

/**
 * A writing handler. The idempotency key makes a repeated send be answered, not repeated; `largest` bytes of
 * body are read.
 */
export const write = <Body>(
  permission: Permission,
  schema: Joi.ObjectSchema<Body>,
  handler: WriteHandler<Body>,
  status = 200,
  largest?: number,
): Handler => writer(permission, schema, handler, { status, largest });

/**
 * A writing handler of what can be done away from the desk: what its declaration says of it, whose it is, and
 * once, even where what was done is known and its answer was lost.
 */
export const receive = <Body>(
  { permission, schema, largest }: FieldWrite<Body>,
  handler: WriteHandler<Body>,
  status = 200,
): Handler => writer(permission, schema, answeredOnce(handler), { status, largest, field: true });

const answeredOnce =
  <Body>(handler: WriteHandler<Body>): WriteHandler<Body> =>
  async (ctx, body, params, request) => {
    const stationId = params.stationId ?? (body as { stationId?: string }).stationId ?? '';
    // A first look spares what was done a judgement of how things are now; the sure one is at the station.
    if (await isDone(ctx.db, stationId, ctx.actKey!)) return { already: true };
    try {
      return await handler(ctx, body, params, request);
    } catch (error) {
      if (error instanceof DoneAlready) return { already: true };
      throw error;
    }
  };

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

/** The same where the answer holds a secret that is shown once: it is not kept, and a repeated send is refused. */
export const secretly = <Body>(
  permission: Permission,
  schema: Joi.ObjectSchema<Body>,
  handler: WriteHandler<Body>,
  status = 200,
): Handler => writer(permission, schema, handler, { status, keep: false });

interface Ways {
  readonly status: number;
  /** Whether the answer is kept, to be given again; it is but for secrets. */
  readonly keep?: boolean;
  readonly largest?: number | undefined;
  /** A field write: its key is its act's, and is found again in the field book. */
  readonly field?: boolean;
}

function writer<Body>(
  permission: Permission,
  schema: Joi.ObjectSchema<Body>,
  handler: WriteHandler<Body>,
  { status, keep = true, largest, field = false }: Ways,
): Handler {
  const handle = guarded(async (request, params) => {
    requireOwnOrigin(request);
    const person = await signedIn(request);
    if (field) requireActingPerson(person, request.headers.get(actingPersonHeader));
    requirePermission(person, permission);
    const body = validate(schema, await jsonBody(request, largest));
    const key = request.headers.get('idempotency-key') ?? '';
    if (!uuid.test(key))
      throw badField(
        'no-idempotency-key',
        'Idempotency-Key',
        key,
        'The request carries no usable Idempotency-Key.',
        'Send a new UUIDv7 with each intended write.',
      );
    const ctx = { ...contextOf(person), device: deviceTimeOf(request), actKey: field ? key : null };
    return once(ctx, key, request, body, keep, async () => ({
      status,
      answer: await handler(ctx, body, params, request),
    }));
  });
  return Object.assign(handle, { asks: { permission, schema, field } });
}

function deviceTimeOf(request: NextRequest): DeviceTime | null {
  const text = request.headers.get(deviceTimeHeader);
  if (text === null) return null;
  const said = parseDeviceTime(text);
  if (!said)
    throw badField(
      'bad-device-time',
      'Device-Time',
      text.slice(0, 60),
      `"${text.slice(0, 60)}" does not say when that was by the device.`,
      'Use a form like "2026-03-01T09:30:00.000Z; ahead=0.5".',
    );
  return said;
}

/** A handler that takes a file as it streams in; what it is and who sends it was said in a request before. */
export function upload(
  permission: Permission,
  handler: (ctx: Context, body: ReadableStream<Uint8Array>, params: Params) => Promise<unknown>,
): Handler {
  return guarded(async (request, params) => {
    requireOwnOrigin(request);
    const person = await signedIn(request);
    requirePermission(person, permission);
    const body = request.body ?? new Blob([]).stream();
    return NextResponse.json(await handler(contextOf(person), body, params));
  });
}

/** CSV pieces as a file to save. */
export const csvFile = (name: string, pieces: AsyncGenerator<string>): Response =>
  textFile(`${name}.csv`, 'text/csv', pieces);

/** JSON pieces as a file to save. */
export const jsonFile = (name: string, pieces: AsyncGenerator<string>): Response =>
  textFile(`${name}.json`, 'application/json', pieces);

function textFile(name: string, type: string, pieces: AsyncGenerator<string>): Response {
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done) controller.close();
      else controller.enqueue(encoder.encode(next.value));
    },
    // Whoever asked went away: nothing more is read.
    async cancel() {
      await pieces.return(undefined);
    },
  });
  const file = name.toLowerCase().replace(/[^a-z0-9.]+/g, '-');
  return new Response(body, {
    headers: {
      'content-type': `${type}; charset=utf-8`,
      'content-disposition': `attachment; filename="${file}"`,
      'cache-control': 'no-store',
    },
  });
}

/** Sign-in comes before any session; it shares the origin and body rules. */
export function anonymousWrite<Body>(
  schema: Joi.ObjectSchema<Body>,
  handler: (body: Body, request: NextRequest) => Promise<Response>,
): Handler {
  return guarded(async (request) => {
    requireOwnOrigin(request);
    return handler(validate(schema, await jsonBody(request)), request);
  });
}

/** A key whose work has not been answered for so long belongs to a process that is gone, s. */
const forgottenAfter = 90;

async function once(
  ctx: Context,
  key: string,
  request: NextRequest,
  body: unknown,
  keep: boolean,
  work: () => Promise<{ status: number; answer: unknown }>,
): Promise<Response> {
  const route = `${request.method} ${request.nextUrl.pathname}`;
  const requestHash = createHash('sha256').update(JSON.stringify(body)).digest('hex');
  const [, mine] = (await ctx.db.sequelize.query(
    `insert into idempotency as held (key, user_id, route, request_hash) values ($1, $2, $3, $4)
     on conflict (key) do update set begun_at = clock_timestamp()
       where held.status is null and held.begun_at < clock_timestamp() - make_interval(secs => $5)
         and (held.user_id, held.route, held.request_hash) = (excluded.user_id, excluded.route, excluded.request_hash)`,
    { bind: [key, ctx.person.id, route, requestHash, forgottenAfter] },
  )) as [unknown, { rowCount?: number } | number];
  const inserted = typeof mine === 'number' ? mine : (mine?.rowCount ?? 0);
  if (!inserted) {
    const known = await row(ctx.db.idempotency, { where: { key } });
    if (
      known?.status &&
      known.userId === ctx.person.id &&
      known.route === route &&
      known.requestHash === requestHash
    ) {
      if (!keep)
        throw inTheWay(
          'shown-once',
          'This was done already, and what it gave out was shown then.',
          'Ask for a new link.',
        );
      return NextResponse.json(known.answer, { status: known.status });
    }
    if (known && !known.status)
      throw inTheWay(
        'in-progress',
        'The same request is being worked on already.',
        'Wait a moment and look at the result.',
      );
    throw inTheWay('key-reused', 'This Idempotency-Key belongs to another request.', 'Send a new key.');
  }
  try {
    const { status, answer } = await work();
    await ctx.db.idempotency.update({ status, answer: keep ? (answer ?? null) : null }, { where: { key } });
    return NextResponse.json(answer ?? null, { status });
  } catch (error) {
    // Not answered: the same form may be sent again. What was done before the failure is found again
    // by the ids it carries, so it is not done twice.
    await ctx.db.idempotency.destroy({ where: { key } }).catch(() => {});
    throw error;
  }
}

function requireOwnOrigin(request: NextRequest): void {
  const origin = request.headers.get('origin');
  if (origin && origin === process.env.PUBLIC_ORIGIN) return;
  throw new Problem({
    code: 'foreign-origin',
    status: 403,
    title: 'Not from here',
    detail: 'The request does not come from this application’s own pages.',
    remedy: 'Open the application at its own address. If this is it, PUBLIC_ORIGIN is set wrongly.',
  });
}

/** What was sent, as its schema has it; refuses the first field that is not. */
export function validate<Body>(schema: Joi.ObjectSchema<Body>, body: unknown): Body {
  const judged = judgeBody(schema, body);
  if ('problem' in judged) throw new Problem(judged.problem);
  return judged.value;
}

function guarded(handler: (request: NextRequest, params: Params) => Promise<Response>): Handler {
  return async (request, route) => {
    const began = Date.now();
    let response: Response;
    try {
      response = await handler(request, idsOf(await route.params));
    } catch (error) {
      response = problemResponse(error);
    }
    log.info({
      method: request.method,
      path: request.nextUrl.pathname,
      status: response.status,
      ms: Date.now() - began,
    });
    // Every answer tells a device the time.
    response.headers.set(serverTimeHeader, String(Date.now()));
    return response;
  };
}

/** The ids of an address: what is no id names nothing. */
function idsOf(params: Params = {}): Params {
  for (const [name, value] of Object.entries(params))
    if (name.endsWith('Id') && !anyUuid.test(value))
      throw notFound(name.replace(/Id$/, ''), value.slice(0, 60));
  return params;
}

export function problemResponse(error: unknown): Response {
  const body = problemBody(error);
  return NextResponse.json(body, {
    status: body.status,
    headers: { 'content-type': 'application/problem+json', 'cache-control': 'no-store' },
  });
}

function problemBody(error: unknown): ProblemBody {
  if (error instanceof Problem) return error.body();
  const failure = failureOf(error);
  if (!failure || failure.kind === 'away')
    log.error({ err: error }, failure ? 'database away' : 'request failed');
  return problemOf(failure).body();
}

/** What a failure of the database, or one of our own (null), means to whoever asked. */
function problemOf(failure: Failure | null): Problem {
  switch (failure?.kind) {
    case 'away':
      return new Problem({
        code: 'database-away',
        status: 503,
        title: 'Database away',
        detail: 'The database does not answer just now; nothing was saved.',
        remedy: 'What is on this screen stays. It goes on by itself when the database is back.',
      });
    case 'closed':
      return inTheWay(
        'closed-meanwhile',
        'This was closed meanwhile, by you or by somebody else.',
        'Load the page again and look at it.',
      );
    case 'taken-back':
      return inTheWay('taken-back-already', 'This was taken back already.', 'Load the page again and look.');
    case 'busy':
      return inTheWay(
        'busy',
        'Other work at this station is under way just now; nothing was saved.',
        'Wait a moment and try again.',
      );
    case 'too-long':
      return inTheWay(
        'too-long',
        'This took too long and was stopped; nothing was saved.',
        'Ask for less at once, or try again later.',
      );
    case 'not-stored':
      return badField(
        'not-stored',
        'body',
        null,
        'A value of the request cannot be stored.',
        'Look for unusual characters, numbers or dates and correct them.',
      );
    case 'already-there':
      return inTheWay(
        'already-there',
        'This has been saved already, or someone else was first.',
        'Load the page again and compare.',
      );
    case undefined:
      return new Problem({
        code: 'internal',
        status: 500,
        title: 'Something broke',
        detail: 'The application made a mistake; nothing was saved.',
        remedy: 'Try again. If it happens again, tell the administrator the time.',
      });
  }
}
