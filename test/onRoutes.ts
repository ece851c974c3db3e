import path from 'node:path';
import { NextRequest } from 'next/server';
import { roles, type Role } from '@/contract/permission';
import { signIn } from '@/server/account/signIn';
import { newId } from '@/server/id';
import { onConnectedBench, type Connected, type Made } from './onBench';

export const origin = 'http://cairn.test';
/** Where the application keeps its pool. */
export const held = globalThis as { outerCairnDatabase?: unknown };
const tokens = {} as Record<Role, string>;

/** A connected bench behind the route handlers, with everybody signed in. */
export function onRoutes(take: (made: Made & { ids: Connected }) => void): void {
  let made: Made & { ids: Connected };
  onConnectedBench((m) => (made = m));
  beforeAll(async () => {
    const { test_, bench } = made;
    held.outerCairnDatabase = test_.db;
    process.env.PUBLIC_ORIGIN = origin;
    process.env.DEVICE_ALLOW = bench.at().deviceAllow;
    for (const role of roles)
      tokens[role] = (
        await signIn(test_.db, bench.people[role].name, 'long enough for tests', {
          address: '10.0.0.1',
        })
      ).token;
    take(made);
  });
  afterAll(() => {
    held.outerCairnDatabase = undefined;
  });
}

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';
export interface Call {
  method: Method;
  path: string;
  params?: Record<string, string>;
  /** With its question mark. */
  query?: string;
  body?: unknown;
  role?: Role | null;
  headers?: Record<string, string>;
}

/** Calls a route handler as the framework would. */
export async function call({
  method,
  path: at,
  params = {},
  query = '',
  body,
  role,
  headers = {},
}: Call): Promise<Response> {
  // Any route by its path: the tables of routes go through all of them.
  // eslint-disable-next-line no-restricted-syntax
  const handlers = (await import(path.join(process.cwd(), 'app/api', at, 'route.ts'))) as Record<
    string,
    (r: NextRequest, c: { params: Promise<Record<string, string>> }) => Promise<Response>
  >;
  const request = new NextRequest(`${origin}/api/${at}${query}`, {
    method,
    ...(body !== undefined && {
      body: (typeof body === 'string' || body instanceof Uint8Array
        ? body
        : JSON.stringify(body)) as BodyInit,
    }),
    headers: {
      origin,
      'idempotency-key': newId(),
      'content-type': 'application/json',
      ...(role && { cookie: `oc_session=${tokens[role]}` }),
      ...headers,
    },
  });
  const handler = handlers[method];
  // As the framework answers a method a route does not know.
  if (!handler)
    return Response.json(
      { code: 'method', detail: `No ${method} here.`, remedy: 'Use another.' },
      { status: 405 },
    );
  return handler(request, { params: Promise.resolve(params) });
}
