// Whether the database answers, asked at most twice a second whatever the number of requests.
import pg from 'pg';

export function readiness(url) {
  let asked = 0;
  let answer = Promise.resolve(true);
  const ask = async () => {
    const client = new pg.Client({
      connectionString: url,
      connectionTimeoutMillis: 2000,
      query_timeout: 2000,
    });
    client.on('error', () => {});
    try {
      await client.connect();
      await client.query('select 1');
      return true;
    } catch {
      return false;
    } finally {
      await client.end().catch(() => {});
    }
  };
  return () => {
    // An answer of no is doubted sooner than one of yes.
    if (Date.now() - asked > 2000) {
      asked = Date.now();
      answer = ask().then((up) => {
        if (!up) asked -= 1500;
        return up;
      });
    }
    return answer;
  };
}
