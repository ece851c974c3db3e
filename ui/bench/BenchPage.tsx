'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { BenchSensorView, BenchView } from '@/contract/bench';
import { connectionText } from '@/core/device/connection';
import { useUnsent } from '../outbox/outbox';
import { Age } from '../shared/Age';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { StationHead } from '../station/StationHead';
import { valueText } from './texts';
import { withUnsent } from './withUnsent';

/** What of a station a meter can judge, and what it came to last. */
export function BenchPage({ initial }: { initial: BenchView }) {
  const { data, error } = useView<BenchView>(`/api/v1/stations/${initial.stationId}/bench`, initial, 30_000);
  const person = usePerson();
  const unsent = useUnsent().filter((i) => i.person.id === person.id);
  const view = withUnsent(data, unsent);
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name} />
      <ProblemNote error={error} />
      {view.cautions.length > 0 && (
        <Typography variant="body2" sx={{ mb: 2 }}>
          <b aria-label="Caution">⚠</b> {view.cautions.join(' ')} Local codes and licensed practice come
          first.
        </Typography>
      )}
      {view.sensors.length === 0 && (
        <Typography>
          Nothing here that a meter judges: no resistance, no loop, no contact. What talks over a line is
          looked for under Connect.
        </Typography>
      )}
      <Typography sx={{ mb: 2 }}>
        <Link component={PageLink} href="/exercises">
          Exercises in a virtual cabinet
        </Link>
      </Typography>
      {view.sensors.map((s) => (
        <Sensor key={s.installationId} stationId={view.stationId} sensor={s} zone={view.zone} />
      ))}
    </>
  );
}

function Sensor({ stationId, sensor, zone }: { stationId: string; sensor: BenchSensorView; zone: string }) {
  const at = `/stations/${stationId}/bench/${sensor.installationId}`;
  const open = sensor.sessions.find((s) => s.endedAt === null);
  const last = sensor.sessions.find((s) => s.endedAt !== null);
  return (
    <Box component="section" sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
        <Box sx={{ flexGrow: 1, minWidth: 0 }}>
          <Typography variant="h2">
            <Link component={PageLink} href={at} color="inherit">
              {sensor.profile.name} {sensor.serial}
            </Link>{' '}
            · {sensor.zone}
          </Typography>
          <Typography variant="body2">
            {connectionText(sensor.profile.connection)} ·{' '}
            {sensor.setup.leads.map((l) => `${l.colour} → ${l.terminal ?? 'nowhere'}`).join(' · ')}
          </Typography>
          {sensor.channels.map((c) => (
            <Typography key={c.channelId}>
              {c.name}: <b>{valueText(c.value, c)}</b>
              {c.at && <>, logged {timeText(c.at, zone)}</>}
            </Typography>
          ))}
        </Box>
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', maxWidth: 460 }}>
          <StateMark
            state={open || (last && last.outcome !== 'none') ? 'displaced' : last ? 'sound' : 'missing'}
          />
          <span>
            {open ? (
              <>
                being measured by {open.by} for <Age at={open.openedAt} ago={false} />
              </>
            ) : last ? (
              <>
                {timeText(last.endedAt!, zone)} {last.by}: {last.says}
              </>
            ) : (
              'never measured'
            )}
          </span>
        </Box>
      </Box>
    </Box>
  );
}
