import { cookies } from 'next/headers';
import { notFound, redirect } from 'next/navigation';
import { connection } from 'next/server';
import { database } from '@/db/database';
import { failureOf } from '@/db/failure';
import { personOfSession, sessionWasEnded } from '@/server/account/signIn';
import { requirePermission } from '@/server/account/permission';
import type { Context } from '@/server/context';
import { Problem } from '@/server/problem';
import type { Permission } from '@/contract/permission';
import { contextOf, sessionCookie } from './api/respond';

/** The context of a page: the signed-in person, or a way to the sign-in page. */
export async function pageContext(): Promise<Context> {
  await connection();
  const token = (await cookies()).get(sessionCookie)?.value;
  const person = token ? await personOfSession(database(), token) : null;
  if (!person)
    redirect(token && (await sessionWasEnded(database(), token)) ? '/sign-in?ended=elsewhere' : '/sign-in');
  return contextOf(person);
}

/** The same of a page that is not for everybody; to the others it is not there. */
export async function pageContextFor(permission: Permission): Promise<Context> {
  const ctx = await pageContext();
  await pageData(Promise.resolve().then(() => requirePermission(ctx.person, permission)));
  return ctx;
}

/**
 * Loads a page's data; what is not there, and an address nobody can mean, becomes the not-found page.
 */
export async function pageData<T>(loading: Promise<T>): Promise<T> {
  try {
    return await loading;
  } catch (error) {
    if (error instanceof Problem && error.parts.status < 500) notFound();
    if (failureOf(error)?.kind === 'not-stored') notFound();
    throw error;
  }
}
