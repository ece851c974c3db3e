import { NextResponse } from 'next/server';
import { anonymousWrite, sessionCookie } from '@/app/api/respond';
import { nothing, signIn as schema } from '@/contract/requests';
import { database } from '@/db/database';
import { signIn, signOut } from '@/server/account';

const cookie = (value: string, expires: Date) => ({
  name: sessionCookie,
  value,
  expires,
  httpOnly: true,
  sameSite: 'strict' as const,
  path: '/',
  secure: (process.env.PUBLIC_ORIGIN ?? '').startsWith('https:'),
});

export const POST = anonymousWrite(schema, async (body, request) => {
  const address = request.headers.get('x-forwarded-for')?.split(',')[0]?.trim() || 'unknown';
  const { token, person, expiresAt } = await signIn(database(), body.name, body.password, address);
  const response = NextResponse.json(person);
  response.cookies.set(cookie(token, expiresAt));
  return response;
});

export const DELETE = anonymousWrite(nothing, async (_body, request) => {
  const token = request.cookies.get(sessionCookie)?.value;
  if (token) await signOut(database(), token);
  const response = NextResponse.json({ signedOut: true });
  response.cookies.set(cookie('', new Date(0)));
  return response;
});
