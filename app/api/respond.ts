import { createHash } from 'node:crypto';
import type Joi from 'joi';
import { NextResponse, type NextRequest } from 'next/server';
import { deviceTimeHeader, parseDeviceTime, serverTimeHeader, type DeviceTime } from '@/contract/deviceClock';
import type { Permission } from '@/contract/permission';
import { endedElsewhere, type ProblemBody } from '@/contract/problem';
import { judgeBody } from '@/contract/validate';
import { database } from '@/db/database';
import { failureOf, type Failure } from '@/db/failure';
import { requirePermission } from '@/server/account/permission';
import { personOfSession, sessionWasEnded } from '@/server/account/signIn';
import type { Context, Person } from '@/server/context';
import { log } from '@/server/process/log';
import { badField, inTheWay, notFound, Problem } from '@/server/problem';
import { jsonBody } from './boundedBody';
import { keyOf, once, type Answered } from './once';

/** The one way in for route handlers: session, origin, schema, permission, one use-case, an answer. */

export const sessionCookie = 'oc_session';
export const sessionToken = (request: NextRequest): string => request.cookies.get(sessionCookie)?.value ?? '';

export type Params = Record<string, string>;
type RouteContext = { params: Promise<Params | undefined> };
export type Handler = (request: NextRequest, route: RouteContext) => Promise<Response>;

/** Ids in addresses: any UUID. */
const anyUuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

export function contextOf(person: Person): Context {
  return { db: database(), person, now: () => new Date(), deviceAllow: process.env.DEVICE_ALLOW ?? '' };
}

async function signedIn(request: NextRequest): Promise<Person> {
  const token = sessionToken(request);
  const person = token ? await personOfSession(database(), token) : null;
  if (!person)
    throw new Problem({
      code: token && (await sessionWasEnded(database(), token)) ? endedElsewhere : 'signed-out',
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

/** The same where the answer holds a secret that is shown once: it is not kept, and a repeated send is refused. */
export const secretly = <Body>(
  permission: Permission,
  schema: Joi.ObjectSchema<Body>,
  handler: WriteHandler<Body>,
  status = 200,
): Handler => writer(permission, schema, handler, { status, keep: false });

function writer<Body>(
  permission: Permission,
  schema: Joi.ObjectSchema<Body>,
  handler: WriteHandler<Body>,
  { status, keep = true, largest }: { status: number; keep?: boolean; largest?: number | undefined },
): Handler {
  const handle = signedWrite(async (person, request, params) => {
    requirePermission(person, permission);
    const body = validate(schema, await jsonBody(request, largest));
    const key = keyOf(request.headers.get('idempotency-key') ?? '');
    const ctx = { ...contextOf(person), device: deviceTimeOf(request.headers.get(deviceTimeHeader)) };
    return once(ctx, { key, route: routeOf(request), body, keep }, async () => ({
      status,
      answer: await handler(ctx, body, params, request),
    }));
  });
  return Object.assign(handle, { asks: { permission, schema } });
}

/** What every write of somebody signed in goes through first; its answer is sent as JSON. */
export const signedWrite = (
  work: (person: Person, request: NextRequest, params: Params) => Promise<Answered>,
): Handler =>
  guarded(async (request, params) => {
    requireOwnOrigin(request);
    const { status, answer } = await work(await signedIn(request), request, params);
    return NextResponse.json(answer, { status });
  });

const routeOf = (request: NextRequest): string => `${request.method} ${request.nextUrl.pathname}`;

/** What a device says of its clock, if it does. */
export function deviceTimeOf(text: string | null): DeviceTime | null {
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
export function idsOf(params: Params = {}): Params {
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

export function problemBody(error: unknown): ProblemBody {
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
