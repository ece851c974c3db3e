import { healthAnswer } from './answer';

export const dynamic = 'force-dynamic';

export const GET = healthAnswer;
