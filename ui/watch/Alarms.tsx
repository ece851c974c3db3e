'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useSearchParams } from 'next/navigation';
import type { AlarmsView, AlarmView } from '@/contract/watch';
import { groupBy } from '@/core/groupBy';
import { alarmLoad } from '@/core/watch/rehearse';
import { ProblemNote } from '../shared/ProblemNote';
import { useView } from '../shared/useView';
import { AlarmGroup } from './AlarmGroup';
import { perMonthText } from './RingList';
import { WatchHead } from './WatchHead';

const loadWords = {
  acceptable: 'what one person can answer',
  manageable: 'at the edge of what one person can answer',
  'too many': 'more than one person can answer: alarms that ring all day are not looked at',
} as const;

/** Alarms of one cause, the first of them leading. */
const groupsOf = (alarms: readonly AlarmView[]): AlarmView[][] => [
  ...groupBy(alarms, (a) => a.groupId).values(),
];

/** What rings, what waits for somebody, and what was. */
export function Alarms({ initial }: { initial: AlarmsView }) {
  const { data, error, changed } = useView('/api/v1/watch/alarms', initial, 10_000);
  const pointed = useSearchParams().get('alarm');
  const groups = groupsOf(data.standing);
  const ringing = groups.filter((g) => g.some((a) => a.returnedAt === null));
  const over = groups.filter((g) => g.every((a) => a.returnedAt !== null));
  const load = alarmLoad(data.perMonth, data.mostInTenMinutes);
  return (
    <>
      <WatchHead title="Alarms" here="/watch/alarms" />
      <ProblemNote error={error} />
      <Typography sx={{ mb: 2, maxWidth: 760 }}>
        <b>{perMonthText(data.perMonth)} alarms in the last month</b>, {data.mostInTenMinutes} within ten
        minutes at the most: {loadWords[load]}.
      </Typography>
      <List title="Ringing" none="Nothing rings." groups={ringing} pointed={pointed} onChanged={changed} />
      <List
        title="Over, not acknowledged"
        none="Nothing waits for you."
        groups={over}
        pointed={pointed}
        onChanged={changed}
      />
      <List
        title="Of the last 30 days"
        none="Nothing rang."
        groups={groupsOf(data.past)}
        pointed={pointed}
        onChanged={changed}
      />
    </>
  );
}

function List({
  title,
  none,
  groups,
  pointed,
  onChanged,
}: {
  title: string;
  none: string;
  groups: readonly AlarmView[][];
  pointed: string | null;
  onChanged: () => Promise<void>;
}) {
  return (
    <Box component="section" aria-label={title} sx={{ mb: 3 }}>
      <Typography variant="h2">
        {title}
        {groups.length > 0 && ` (${groups.length})`}
      </Typography>
      {groups.length === 0 ? (
        <Typography color="text.secondary">{none}</Typography>
      ) : (
        <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
          {groups.map((g) => (
            <AlarmGroup
              key={g[0]!.groupId}
              alarms={g}
              isPointed={g.some((a) => a.id === pointed)}
              onChanged={onChanged}
            />
          ))}
        </Box>
      )}
    </Box>
  );
}
