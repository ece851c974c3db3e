import { Client } from 'pg';
import { verifyList, verifyQuery } from '@/server/verify/list';
import { ms, percentile, printTable, type BenchLine } from './table';
import type { BenchWorld } from './world';

/** 2 000 stations of 10 channels each, with standings as the application keeps them. */
export async function manyStations(world: BenchWorld): Promise<void> {
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
      -- The logger's row, which the Round's "last contact" asks for.
      insert into clock_comparison (station_id, id, logger_id, compared_at, logger_time, difference, uncertainty)
        select station_id, gen_random_uuid(), id, now() - random() * interval '3 days', now(), 0, 0.5 from logger where model = 'Brannoch B4';
      insert into channel_standing (station_id, channel_id, station_code, station_name, site, quantity, name, last_at, last_value, collected_at, checked_at, difference,
          difference_limit, missing, suspect, failed, clock_difference)
        select c.station_id, c.id, s.code, s.name, 'Site', c.quantity, c.zone_name || ' ' || c.quantity, now() - random() * interval '2 days', random() * 30, now(),
               now() - interval '90 days', random() - 0.5, 0.4, (random() * 20)::int, (random() * 9)::int, (random() * 3)::int, random() * 40
          from channel c join station s on s.id = c.station_id where not exists (select 1 from channel_standing k where k.channel_id = c.id);
      -- Half of the channels have a reason, and each falls due some day; what follows from them as it is derived.
      insert into finding (station_id, number, code, subject_kind, subject_id, who, stone, state, weight, from_at, until_at, text, next, bring, channels)
        select c.station_id, c.number, f.code, 'channel', c.id, c.zone_name || ' ' || c.quantity, 'record', 'displaced', f.weight,
               '-infinity', 'infinity', 'a reason of some length, as they are', 'Look at them in the trace', '["multimeter"]', jsonb_build_array(c.id)
          from channel c cross join lateral (select * from (values ('gap', 50), ('stuck', 78), ('values-suspect', 46)) v(code, weight)
            order by random() + 0 * length(c.zone_name) limit 1) f where c.number % 2 = 0 and c.zone_name like 'Zone %';
      insert into channel_word (station_id, channel_id, from_at, until_at, word, weight, reason, place)
        select c.station_id, c.id, e.from_at, e.until_at, coalesce(f.code, e.word), coalesce(f.weight, e.weight), coalesce(f.text, e.reason), s.code || ' ' || lpad(c.number::text, 3, '0')
          from channel c join station s on s.id = c.station_id left join finding f on f.station_id = c.station_id and f.subject_id = c.id
          cross join lateral (values ('-infinity'::timestamptz, now() + interval '1 day' * c.number, 'good', 0, 'within every limit that is set'),
                                     (now() + interval '1 day' * c.number, 'infinity', 'overdue', 42, 'last checked {ago 1767225600000} ago'))
            e(from_at, until_at, word, weight, reason) where c.zone_name like 'Zone %';
      insert into station_urgency (station_id, from_at, until_at, heaviest, total)
        select station_id, '-infinity', 'infinity', max(weight), sum(weight) from finding group by 1;
      delete from standing_mark`);
    // As the database does by itself some minutes after so many rows.
    await client.query('vacuum analyze');
  } finally {
    await client.end();
  }
}

/** The first page of the Verify list over 20 000 channels. */
export async function benchVerify(world: BenchWorld): Promise<void> {
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
