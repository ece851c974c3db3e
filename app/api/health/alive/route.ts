import { NextResponse } from 'next/server';

export const dynamic = 'force-dynamic';

/** Alive: the process answers. One that does not is to be restarted; a database that is away is no reason to. */
export const GET = () => NextResponse.json({ alive: true }, { headers: { 'cache-control': 'no-store' } });
