import { NextResponse } from 'next/server';
import { anonymousWrite, sessionCookie } from '@/app/api/respond';
import { nothing, signIn as schema } from '@/contract/requests';
import { database } from '@/db/database';
import { signIn, signOut } from '@/server/account/signIn';

const cookie = (name: string, value: string, expires: Date) => ({
  name,
  value,
  expires,
  httpOnly: true,
  sameSite: 'strict' as const,
  path: '/',
  secure: (process.env.PUBLIC_ORIGIN ?? '').startsWith('https:'),
});

/** What a device keeps, so that wrong passwords tried elsewhere do not lock its owner out. */
const deviceCookie = 'oc_device';
const aYear = 365 * 86_400_000;

export const POST = anonymousWrite(schema, async (body, request) => {
  // The server in front (scripts/serve.mjs) leaves one address here: the one it believes.
  const address = request.headers.get('x-forwarded-for') || 'unknown';
  const { token, device, person, expiresAt } = await signIn(database(), body.name, body.password, {
    address,
    device: request.cookies.get(deviceCookie)?.value ?? null,
    agent: request.headers.get('user-agent') ?? '',
  });
  const response = NextResponse.json(person);
  response.cookies.set(cookie(sessionCookie, token, expiresAt));
  response.cookies.set(cookie(deviceCookie, device, new Date(Date.now() + aYear)));
  return response;
});

export const DELETE = anonymousWrite(nothing, async (_body, request) => {
  const token = request.cookies.get(sessionCookie)?.value;
  if (token) await signOut(database(), token);
  const response = NextResponse.json({ signedOut: true });
  response.cookies.set(cookie(sessionCookie, '', new Date(0)));
  return response;
});
