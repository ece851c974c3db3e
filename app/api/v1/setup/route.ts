import { NextResponse } from 'next/server';
import { anonymousWrite } from '@/app/api/respond';
import { firstAdministrator as schema } from '@/contract/accountRequests';
import { database } from '@/db/database';
import { makeFirstAdministrator } from '@/server/account/people';

export const POST = anonymousWrite(schema, async (body) =>
  NextResponse.json(await makeFirstAdministrator(database(), body), { status: 201 }),
);
