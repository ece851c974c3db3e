import { Client } from 'pg';
import { verifyList, verifyQuery } from '@/server/verify/list';
import { ms, percentile, printTable, type BenchLine } from './table';
import type { BenchWorld } from './world';

/** 2 000 stations of 10 channels each, with standings as the application keeps them. */
async function manyStations(world: BenchWorld): Promise<void> {
  const client = new Client({ connectionString: world.superUrl });
  await client.connect();
  try {
    await client.query(`
      insert into site (id, name, zone) select gen_random_uuid(), 'Site ' || i, 'Etc/UTC' from generate_series(1, 400) i;
      create temp table st as select gen_random_uuid() as id, i, (select id from site order by name offset i % 400 limit 1) as site
        from generate_series(1, 2000) i;
      insert into station (id, site_id, code, name) select id, site, 'ST-' || i, 'Station ' || i from st;
      insert into logger (station_id, id, model, serial, address, utc_offset_minutes, supply_voltage)
        select id, gen_random_uuid(), 'Brannoch B4', 'S' || i, '127.0.0.1:1', 0, 12 from st;
      insert into channel (station_id, id, logger_id, number, quantity, zone_name)
        select st.id, gen_random_uuid(), l.id, n, (array['airTemperature', 'humidity', 'waterLevel'])[1 + n % 3], 'Zone ' || n
          from st join logger l on l.station_id = st.id cross join generate_series(1, 10) n;
      insert into channel_standing (station_id, channel_id, computed_at, name, word, weight, reason, last_at, last_value, collected_at,
          checked_at, check_due_at, difference, difference_limit, missing, suspect, failed, clock_difference)
        select c.station_id, c.id, now(), c.zone_name || ' ' || c.quantity, w.word, w.weight, 'a reason of some length, as they are',
               now() - random() * interval '2 days', random() * 30, now(), now() - interval '90 days', now() + (random() - 0.2) * interval '90 days',
               random() - 0.5, 0.4, (random() * 20)::int, (random() * 9)::int, (random() * 3)::int, random() * 40
          from channel c cross join lateral (select * from (values ('good', 0), ('gaps', 50), ('stuck', 78), ('suspect', 46), ('off', 73)) v(word, weight)
            order by random() + 0 * length(c.zone_name) limit 1) w
         where not exists (select 1 from channel_standing k where k.channel_id = c.id);
      analyze`);
  } finally {
    await client.end();
  }
}

/** The first page of the Verify list over 20 000 channels. */
export async function benchVerify(world: BenchWorld): Promise<void> {
  await manyStations(world);
  const lines: BenchLine[] = [];
  for (const [what, asked] of [
    ['worst first', ''],
    ['sorted by missing values', 'sort=missing'],
    ['filtered by text', 'text=station%2012'],
    ['the last page', 'page=400'],
  ] as const) {
    const times: number[] = [];
    for (let i = 0; i < 80; i++) {
      const at = performance.now();
      const list = await verifyList(world.db, verifyQuery(new URLSearchParams(asked)), new Date());
      if (list.rows.length === 0) throw new Error('an empty list');
      if (i >= 10) times.push(performance.now() - at);
    }
    lines.push({
      what,
      value: `p95 ${ms(percentile(times, 0.95))}`,
      against: `middle ${ms(percentile(times, 0.5))}`,
      ...(asked === '' && { aim: 'p95 < 100 ms' }),
    });
  }
  printTable('Verify, 2 000 stations of 10 channels', lines);
}
