// Whether the database answers, asked about once in two seconds whatever the number of requests.
import pg from 'pg';

/** Only what says so plainly counts as away: refused, shutting down, unreachable. A slow answer is none of it. */
const away = /ECONNREFUSED|ECONNRESET|ENOTFOUND|EHOSTUNREACH|ENETUNREACH|57P0|terminat/;

export function readiness(url) {
  let asked = 0;
  let ready = true;
  let asking = null;
  const ask = async () => {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 10_000 });
    client.on('error', () => {});
    try {
      await client.connect();
      await client.query('select 1');
      return true;
    } catch (error) {
      return !away.test(`${error.code ?? ''} ${error.message}`);
    } finally {
      await client.end().catch(() => {});
    }
  };
  return async () => {
    // An answer of no is doubted sooner than one of yes.
    if (!asking && Date.now() - asked > (ready ? 2000 : 500)) {
      asked = Date.now();
      asking = ask().then((up) => {
        ready = up;
        asking = null;
      });
    }
    // While it is being asked, the answer before holds, unless that was no.
    if (!ready && asking) await asking;
    return ready;
  };
}
