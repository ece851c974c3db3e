'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { LevelReadingView, WaterView } from '@/contract/water';
import { visitHours } from '@/core/visit/openMatter';
import type { LevelRecord } from '@/core/water/levelSum';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useNow } from '../shared/useNow';
import { StationHead } from '../station/StationHead';
import { CorrectRecord } from './CorrectRecord';
import { GaugesTogether } from './GaugesTogether';
import { LevelLadder } from './LevelLadder';
import { LevelLine, TakeBack } from './LevelLine';
import { Proposals } from './Proposals';
import { ReadLevel } from './ReadLevel';
import { useWater } from './useWater';

/** Levels of a station: read, summed, put beside the record. */
export function WaterPage({ initial }: { initial: WaterView }) {
  const { view, record, error, changed } = useWater(initial, 30_000);
  const mayMeasure = useMay('measure');
  const now = useNow(Number.NaN, 60_000);
  const newest = view.readings[0] ?? null;
  const [visit, earlier] = apart(view.readings, newest);
  const drawn = view.points.length > 0;
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name}>
        <Button component={PageLink} href={`/stations/${view.stationId}/water/points`}>
          Points, datum, surveys
        </Button>
        <Button component={PageLink} href={`/stations/${view.stationId}/water/discharge`}>
          Discharge
        </Button>
      </StationHead>
      <ProblemNote error={error} />
      <Typography variant="body2" sx={{ mb: 2 }}>
        <b aria-label="Caution">⚠</b>{' '}
        {[...view.cautions, ...(view.cautions.some((c) => /water/i.test(c)) ? [] : [overWater])].join(' ')}{' '}
        Local codes and licensed practice come first.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) 360px' },
          gap: 3,
        }}
      >
        <Box>
          {mayMeasure && <ReadLevel view={view} record={record} onKept={changed} />}
          {!drawn && (
            <Typography sx={{ mt: 2 }}>
              No measuring point is on file here. Add what levels are read from under{' '}
              <Link component={PageLink} href={`/stations/${view.stationId}/water/points`}>
                Points, datum, surveys
              </Link>
              ; until then a level is worked out by hand and kept with its sum.
            </Typography>
          )}
        </Box>
        {drawn && (
          <Box component="figure" sx={{ m: 0 }}>
            <LevelLadder
              view={view}
              record={record}
              readings={visit}
              at={Number.isFinite(now) ? now : (newest?.at ?? 0)}
            />
            <Typography component="figcaption" variant="caption" color="text.secondary">
              Metres above {view.datum?.name ?? 'the station’s zero'}. Bars: what was read at the last visit,
              and what it is good to. Water: as logged last.
            </Typography>
          </Box>
        )}
      </Box>
      <Box component="section" aria-labelledby="last-visit" sx={{ mt: 3 }}>
        <Typography variant="h2" id="last-visit" sx={{ mb: 1 }}>
          Last visit
        </Typography>
        {visit.length === 0 && <Typography>Nothing was read here yet.</Typography>}
        {visit.map((r) => (
          <LevelLine key={r.id} view={view} record={record} reading={r} onChanged={changed}>
            <CorrectRecord view={view} reading={r} onChanged={changed} />
            <Revisions view={view} reading={r} onChanged={changed} />
          </LevelLine>
        ))}
        <GaugesTogether view={view} record={record} readings={visit} />
      </Box>
      <Proposals view={view} record={record} onChanged={changed} />
      <Earlier view={view} record={record} readings={earlier} onChanged={changed} />
    </>
  );
}

const overWater = 'Over water: flotation, never alone; nobody wades where depth times speed is high.';

/** What was read at the visit of the newest reading, and before. */
function apart(
  readings: readonly LevelReadingView[],
  newest: LevelReadingView | null,
): [LevelReadingView[], LevelReadingView[]] {
  const isOfVisit = (r: LevelReadingView) => newest !== null && newest.at - r.at <= visitHours * 3_600_000;
  return [readings.filter(isOfVisit), readings.filter((r) => !isOfVisit(r))];
}

/** What was added to a level afterwards, and the way back. */
function Revisions({
  view,
  reading,
  onChanged,
}: {
  view: WaterView;
  reading: LevelReadingView;
  onChanged: () => Promise<void>;
}) {
  return view.revisions
    .filter((r) => r.readingId === reading.id)
    .map((r) => (
      <Box key={r.id} sx={{ pl: 2 }}>
        <Typography variant="body2">
          {r.adds > 0 ? '+' : '−'}
          {Math.abs(r.adds).toFixed(3)} m by {r.by}: {r.reason}
        </Typography>
        <TakeBack view={view} kind="revisions" id={r.id} onChanged={onChanged} />
      </Box>
    ));
}

/** So many at first. */
const page = 12;

function Earlier({
  view,
  record,
  readings,
  onChanged,
}: {
  view: WaterView;
  record: LevelRecord;
  readings: readonly LevelReadingView[];
  onChanged: () => Promise<void>;
}) {
  const [shown, setShown] = useState(page);
  if (readings.length === 0) return null;
  return (
    <Box component="section" aria-labelledby="earlier" sx={{ mt: 3 }}>
      <Typography variant="h2" id="earlier" sx={{ mb: 1 }}>
        Read before
      </Typography>
      {readings.slice(0, shown).map((r) => (
        <LevelLine key={r.id} view={view} record={record} reading={r} onChanged={onChanged}>
          <Revisions view={view} reading={r} onChanged={onChanged} />
        </LevelLine>
      ))}
      {shown < readings.length && (
        <Button sx={gloved} onClick={() => setShown(shown + page)}>
          Older ones
        </Button>
      )}
      {shown >= readings.length && view.hasMore && (
        <Typography variant="body2">Still older ones stand in the field book.</Typography>
      )}
    </Box>
  );
}
