import { healthAnswer } from '../answer';

export const dynamic = 'force-dynamic';

/** Ready: the process and its database answer, so that people may be sent here. */
export const GET = healthAnswer;
