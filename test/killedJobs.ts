import { openDatabase } from '@/db/database';
import { keepDoing } from '@/server/watch/jobs';

/** Does jobs until it is killed; says when it has begun. */
const order = JSON.parse(process.argv[2]!) as { url: string; smtpUrl: string };
const db = openDatabase(order.url);
await keepDoing(
  () => db,
  { DATABASE_URL: order.url, SMTP_URL: order.smtpUrl, PUBLIC_ORIGIN: 'https://cairn.example' },
  () => process.exit(1),
);
process.send?.('ready');
