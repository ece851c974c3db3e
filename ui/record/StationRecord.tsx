'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { StationRecordView } from '@/contract/recordViews';
import { formatValue } from '@/core/quantity/format';
import { Age } from '../shared/Age';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { every } from '../shared/polling';
import { ProblemNote } from '../shared/ProblemNote';
import { SmallTrace } from '../shared/SmallTrace';
import { StateMark } from '../shared/stateMark';
import { useSmallTraces } from '../shared/useSmallTraces';
import { DerivedForm } from './DerivedForm';
import { TypeForm } from './TypeForm';
import { StationHead } from '../station/StationHead';
import { placeInTrace, stateOf } from '../verify/VerifyRow';

const sourceText = {
  logger: 'from the logger',
  file: 'from files',
  manual: 'typed',
  derived: 'derived',
} as const;

/** What a station has logged: each channel with its last days, how far it can be trusted, and the way into its trace. */
export function StationRecord({ initial }: { initial: StationRecordView }) {
  const path = `/api/v1/stations/${initial.stationId}/record`;
  const {
    data: s,
    error,
    refetch,
  } = useQuery({
    queryKey: [path],
    queryFn: () => load<StationRecordView>(path),
    initialData: initial,
    refetchInterval: every(30_000),
  });
  const mayImport = useMay('import');
  const mayMark = useMay('mark');
  const mayMeasure = useMay('measure');
  const [open, setOpen] = useState<'derive' | 'type' | null>(null);
  const toggle = (form: 'derive' | 'type') => setOpen(open === form ? null : form);
  const small = useSmallTraces(s.channels);
  return (
    <>
      <StationHead stationId={s.stationId} code={`${s.code} · ${s.site}`} name={s.name}>
        {mayMark && s.channels.length > 0 && (
          <Button onClick={() => toggle('derive')} aria-expanded={open === 'derive'}>
            Derive a channel
          </Button>
        )}
        {mayMeasure && (
          <Button onClick={() => toggle('type')} aria-expanded={open === 'type'}>
            Type a reading
          </Button>
        )}
        {mayImport && (
          <Button component={PageLink} href={`/stations/${s.stationId}/import`}>
            Import a file
          </Button>
        )}
      </StationHead>
      <ProblemNote error={error} />
      {open === 'type' && <TypeForm record={s} onTyped={() => void refetch()} />}
      {open === 'derive' && (
        <DerivedForm
          record={s}
          onDone={() => {
            setOpen(null);
            void refetch();
          }}
        />
      )}
      {s.channels.length === 0 && (
        <Typography>
          Nothing is logged here yet: connect a sensor, import a file, or type what was read.
        </Typography>
      )}
      <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
        {s.channels.map((c) => (
          <Box
            component="li"
            key={c.channelId}
            sx={{
              display: 'grid',
              gridTemplateColumns: {
                xs: '1fr auto',
                md: '36px minmax(200px, 1fr) 140px 130px minmax(240px, 1.6fr)',
              },
              columnGap: 2,
              rowGap: 0.5,
              alignItems: 'center',
              py: 1,
              borderBottom: 1,
              borderColor: 'divider',
            }}
          >
            <Box sx={{ color: 'text.secondary', textAlign: 'right', display: { xs: 'none', md: 'block' } }}>
              {c.number}
            </Box>
            <Box>
              <Link
                component={PageLink}
                href={placeInTrace(c)}
                sx={{ fontWeight: 600, color: 'text.primary' }}
              >
                {c.name}
              </Link>
              <Box sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
                {c.formula ?? sourceText[c.source]}
              </Box>
            </Box>
            <SmallTrace trace={small.get(c.channelId)} />
            <Box sx={{ textAlign: { md: 'right' } }}>
              {formatValue(c.lastValue, c.decimals)} {c.lastValue !== null && c.unit}
              <Box sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
                {c.lastAt ? <Age at={c.lastAt} /> : 'never'}
              </Box>
            </Box>
            <Box
              sx={{
                display: 'flex',
                gap: 0.75,
                alignItems: 'baseline',
                gridColumn: { xs: '1 / -1', md: 'auto' },
              }}
            >
              <Box sx={{ pt: '2px', alignSelf: 'start' }}>
                <StateMark state={stateOf(c.word)} />
              </Box>
              <span>
                <b>{c.word}</b> {c.reason !== c.word && c.reason}
              </span>
            </Box>
          </Box>
        ))}
      </Box>
    </>
  );
}
