import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import { connection } from 'next/server';
import { database } from '@/db/database';
import { personOfSession } from '@/server/account';
import type { Context } from '@/server/context';
import { Problem } from '@/server/problem';
import { notFound } from 'next/navigation';
import { contextOf, sessionCookie } from './api/respond';

/** The context of a page: the signed-in person, or a way to the sign-in page. */
export async function pageContext(): Promise<Context> {
  await connection();
  const token = (await cookies()).get(sessionCookie)?.value;
  const person = token ? await personOfSession(database(), token) : null;
  if (!person) redirect('/sign-in');
  return contextOf(person);
}

/** Loads a page's data; what is not there becomes the not-found page. */
export async function pageData<T>(loading: Promise<T>): Promise<T> {
  try {
    return await loading;
  } catch (error) {
    if (error instanceof Problem && error.parts.status === 404) notFound();
    throw error;
  }
}
