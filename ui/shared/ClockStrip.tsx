'use client';

import Link from '@mui/material/Link';
import { useQuery } from '@tanstack/react-query';
import PageLink from './PageLink';
import type { ClockStripView } from '@/contract/views';
import { groupBy } from '@/core/groupBy';
import { load } from './api';
import { Age } from './Age';
import { every } from './polling';
import { Strip } from './Strip';

/** Channels of a station that went off-line at one moment. */
function together(offLine: ClockStripView['offLine']) {
  const groups = new Map<string, { stationCode: string; since: string; names: string[] }>();
  for (const { stationCode, since, channelName } of offLine) {
    const key = `${stationCode} ${since}`;
    const group = groups.get(key) ?? { stationCode, since, names: [] };
    group.names.push(channelName);
    groups.set(key, group);
  }
  return [...groups.values()].map((g) => ({ ...g, names: g.names.sort((a, b) => a.localeCompare(b)) }));
}

/** Checks that are open at one station; more than two are told as a number, since they are worked together. */
function atOneStation(open: ClockStripView['openChecks']) {
  return [...groupBy(open, (c) => c.stationId).values()].flatMap((all) => {
    const [first] = all as [(typeof all)[number]];
    const path = `/stations/${first.stationId}/check`;
    return all.length > 2
      ? [
          {
            key: first.stationId,
            path,
            what: first.stationCode,
            says: `${all.length} checks`,
            since: all.map((c) => c.since).sort()[0]!,
          },
        ]
      : all.map((c) => ({
          key: c.id,
          path: `${path}/${c.id}`,
          what: `${c.stationCode} ${c.channelName}`,
          says: 'check',
          since: c.since,
        }));
  });
}

/** Stays visible on every view while something runs. */
export function ClockStrip() {
  const { data } = useQuery({
    queryKey: ['clock-strip'],
    queryFn: () => load<ClockStripView>('/api/v1/clock-strip'),
    refetchInterval: every(10_000),
  });
  if (!data) return null;
  const items = [
    ...data.unknown.map((u) => ({
      key: `u${u.stationId}`,
      mark: '?',
      colour: 'error.main',
      body: (
        <>
          <Link component={PageLink} href={`/stations/${u.stationId}/connect`} color="inherit">
            {u.stationCode}
          </Link>
          : {u.count} write with unknown outcome, read back to settle
        </>
      ),
    })),
    ...data.held.map((h) => ({
      key: `h${h.stationId}${h.lineName}`,
      mark: '⇆',
      colour: 'warning.main',
      body: (
        <>
          <Link component={PageLink} href={`/stations/${h.stationId}/connect/line`} color="inherit">
            {h.stationCode} {h.lineName}
          </Link>{' '}
          held for <Age at={h.since} ago={false} />
        </>
      ),
    })),
    ...together(data.offLine).map(({ stationCode, since, names }) => ({
      key: `o${stationCode}${since}`,
      mark: '⌁',
      colour: 'warning.main',
      body: (
        <span title={names.join(', ')}>
          {stationCode} {names.length <= 2 ? names.join(', ') : `${names.length} channels`} off-line for{' '}
          <Age at={since} ago={false} />
        </span>
      ),
    })),
    ...atOneStation(data.openChecks).map((c) => ({
      key: c.key,
      mark: '◔',
      colour: 'primary.main',
      body: (
        <>
          <Link component={PageLink} href={c.path} color="inherit">
            {c.what}
          </Link>
          : {c.says} open for <Age at={c.since} ago={false} />
        </>
      ),
    })),
    ...data.staged.map((s) => ({
      key: `s${s.stationId}`,
      mark: '✎',
      colour: 'warning.main',
      body: (
        <>
          <Link component={PageLink} href={`/stations/${s.stationId}/connect#settings`} color="inherit">
            {s.stationCode}
          </Link>
          : {s.count} staged, not written, for <Age at={s.since} ago={false} />
        </>
      ),
    })),
  ];
  return <Strip label="Running now" items={items} />;
}
