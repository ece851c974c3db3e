'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import type { StationLiveView, StationSheet as Sheet } from '@/contract/views';
import { serialText } from '@/core/bus/serial';
import { formatDifference } from '@/core/quantity/format';
import { stoneNames } from '@/core/trust/finding';
import { BookLine } from '../fieldBook/BookLine';
import { placeOf, Reason } from '../round/Round';
import { load } from '../shared/api';
import { Age } from '../shared/Age';
import { Cairn } from '../shared/Cairn';
import { useMay } from '../shared/person';
import { every } from '../shared/polling';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark, stateWord } from '../shared/stateMark';
import { CollectButton } from './CollectButton';
import { SignalPath } from './SignalPath';
import { useSmallTraces } from '../shared/useSmallTraces';
import { StationHead } from './StationHead';
import { UnknownActions } from './UnknownActions';

const nowOf = (live: StationLiveView | undefined, channelId: string) =>
  live && { at: live.at, hops: live.channels.find((c) => c.channelId === channelId)?.hops ?? {} };

/** The station sheet: the cairn, what displaces its stones, the signal paths, what happened here. */
export function StationSheet({ initial }: { initial: Sheet }) {
  const path = `/api/v1/stations/${initial.id}`;
  const {
    data: s,
    error,
    refetch,
  } = useQuery({
    queryKey: [path],
    queryFn: () => load<Sheet>(path),
    initialData: initial,
    refetchInterval: every(15_000),
  });
  const mayMeasure = useMay('measure');
  // Asked again while somebody looks at the page, and by nobody else.
  const { data: live } = useQuery({
    queryKey: [path, 'live'],
    queryFn: () => load<StationLiveView>(`${path}/live`),
    enabled: mayMeasure && s.logger !== null,
    refetchInterval: every(30_000),
    retry: false,
  });
  const small = useSmallTraces(s.paths.map((p) => ({ stationId: s.id, channelId: p.channelId })));
  return (
    <>
      <StationHead stationId={s.id} code={`${s.code} · ${s.site}`} name={s.name}>
        {mayMeasure && s.logger && <CollectButton stationId={s.id} onDone={() => void refetch()} />}
      </StationHead>
      <ProblemNote error={error} />
      <UnknownActions stationId={s.id} actions={s.unknownActions} onSettled={() => void refetch()} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', sm: '220px 1fr', lg: '240px 1.6fr 1fr' },
          gap: 3,
          mb: 3,
        }}
      >
        <Box>
          <Cairn
            cairn={s.cairn}
            size={200}
            href={(stone) =>
              placeOf(s.id, stone, s.findings.find((f) => f.stone === stone)?.channelId ?? null)
            }
          />
          <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }} aria-label="Stones">
            {[...stoneNames].reverse().map((name) => (
              <Box component="li" key={name} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                <StateMark state={s.cairn[name]} size={16} />
                <Typography variant="body2">
                  {name}: {stateWord[s.cairn[name]]}
                </Typography>
              </Box>
            ))}
          </Box>
        </Box>
        <Box>
          <Typography variant="h2" sx={{ mb: 1 }}>
            {s.findings.length ? 'Why it needs someone' : 'Nothing is the matter here'}
          </Typography>
          {s.findings.map((f, i) => (
            <Reason key={i} stationId={s.id} finding={f} trace={small.get(f.channelId ?? '')} />
          ))}
          {s.findings.length === 0 && (
            <Typography>All five stones stand: its values can be trusted today.</Typography>
          )}
        </Box>
        <Box
          component="dl"
          sx={{
            m: 0,
            display: 'grid',
            gridTemplateColumns: 'auto 1fr',
            columnGap: 2,
            rowGap: 0.5,
            alignContent: 'start',
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0 },
            gridColumn: { sm: '1 / -1', lg: 'auto' },
          }}
        >
          <dt>Logger</dt>
          <dd>
            {s.logger ? `${s.logger.model} ${s.logger.serial}` : 'none: its record is typed or from files'}
          </dd>
          {s.logger && (
            <>
              <dt>Address</dt>
              <dd>{s.logger.address}</dd>
              <dt>Supply</dt>
              <dd>{s.logger.supplyVoltage.toFixed(1)} V at its terminals</dd>
              <dt>Clock</dt>
              <dd>
                {s.clock ? (
                  <>
                    {formatDifference(s.clock.difference, 1)} s ± {s.clock.uncertainty.toFixed(1)} s, measured{' '}
                    <Age at={s.clock.at} />
                  </>
                ) : (
                  'never compared'
                )}
              </dd>
            </>
          )}
          {s.ports.map((p) => (
            <Box key={p.id} sx={{ display: 'contents' }}>
              <dt>{p.name}</dt>
              <dd>
                {p.serial ? serialText(p.serial) : 'terminals'}
                {p.devices.map((d) => (
                  <Box key={`${d.at} ${d.sensor}`}>
                    {d.at}: {d.sensor}, {d.zoneName}
                  </Box>
                ))}
              </dd>
            </Box>
          ))}
          {s.cautions.map((c) => (
            <Box key={c} sx={{ display: 'contents' }}>
              <dt>
                <b>⚠ Caution</b>
              </dt>
              <dd>{c} Local codes and licensed practice come first.</dd>
            </Box>
          ))}
        </Box>
      </Box>
      <Typography variant="h2">Signal paths</Typography>
      {s.paths.length === 0 && (
        <Typography sx={{ py: 2 }}>
          No channel yet.{' '}
          <Link component={PageLink} href={`/stations/${s.id}/connect`}>
            Connect a sensor
          </Link>{' '}
          first.
        </Typography>
      )}
      <Box
        component="ol"
        sx={{ listStyle: 'none', p: 0, m: 0, mt: 1, borderTop: 2, borderColor: 'text.primary' }}
      >
        {s.paths.map((p) => (
          <SignalPath
            key={p.channelId}
            stationId={s.id}
            path={p}
            trace={small.get(p.channelId)}
            now={nowOf(live, p.channelId)}
          />
        ))}
      </Box>
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        What happened here
      </Typography>
      {s.happenings.map((l) => (
        <BookLine key={l.id} line={l} />
      ))}
      <Link component={PageLink} href={`/field-book?station=${s.id}`} sx={{ display: 'inline-block', mt: 1 }}>
        All of it in the field book
      </Link>
    </>
  );
}
