import { NextResponse } from 'next/server';
import { anonymousWrite } from '@/app/api/respond';
import { usePasswordLink as schema } from '@/contract/accountRequests';
import { database } from '@/db/database';
import { choosePassword, holderOfLink } from '@/server/account/people';

/** Whose link it is; with a password, chooses it. */
export const POST = anonymousWrite(schema, async ({ token, password }) =>
  NextResponse.json(
    password === undefined
      ? await holderOfLink(database(), token)
      : await choosePassword(database(), token, password),
  ),
);
