'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { DischargeView } from '@/contract/discharge';
import { formatValue } from '@/core/quantity/format';
import { useMemo } from 'react';
import { inForceAt } from '@/core/discharge/inForce';
import { notOneToOne } from '@/core/discharge/rating';
import { stationDischarge } from '@/core/discharge/stationDischarge';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { useNow } from '../shared/useNow';
import { useView } from '../shared/useView';
import { StationHead } from '../station/StationHead';
import { CurveBench } from './CurveBench';
import { Derived } from './Derived';
import { GaugingForm } from './GaugingForm';
import { RatingBench } from './RatingBench';
import { Sections } from './Sections';
import { StartCurve } from './StartCurve';

/** Discharge of a station: its section, its gaugings, the curve that is led through them. */
export function DischargePage({ initial }: { initial: DischargeView }) {
  const {
    data: view,
    error,
    changed,
  } = useView<DischargeView>(`/api/v1/stations/${initial.stationId}/discharge`, initial);
  const now = useNow(Number.NaN, 60_000);
  const mayMeasure = useMay('measure');
  const at = Number.isFinite(now) ? now : Infinity;
  const section = inForceAt(view.sections, at);
  const curve = view.curves.at(-1) ?? null;
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name}>
        <Button component={PageLink} href={`/stations/${view.stationId}/water`}>
          Levels
        </Button>
      </StationHead>
      <ProblemNote error={error} />
      <Typography variant="body2" sx={{ mb: 2 }}>
        <b aria-label="Caution">⚠</b> {view.cautions.join(' ')} Gauging: flotation, never alone; nobody wades
        where depth times speed is high. Local codes and licensed practice come first.
      </Typography>
      {!view.level && (
        <Typography>
          This station has no channel of water level: nothing to reckon a discharge from.
        </Typography>
      )}
      {!view.velocity ? (
        <RatingBench key={view.ratings.at(-1)?.id ?? ''} view={view} onChanged={changed} />
      ) : section ? (
        curve ? (
          <CurveBench key={curve.id} view={view} section={section} curve={curve} onChanged={changed} />
        ) : (
          <StartCurve view={view} section={section} onSaved={changed} />
        )
      ) : (
        <Typography>No cross-section is on file yet: enter one below.</Typography>
      )}
      {view.velocity && section && curve && <ByLevelAlone view={view} />}
      <Derived view={view} onChanged={changed} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 4,
          mt: 3,
        }}
      >
        {view.velocity && <Sections view={view} onChanged={changed} />}
        <Box component="section" aria-labelledby="new-gauging">
          <Typography variant="h2" id="new-gauging">
            Enter a gauging
          </Typography>
          {mayMeasure ? (
            <GaugingForm view={view} onSaved={changed} />
          ) : (
            <Typography>Technicians enter gaugings.</Typography>
          )}
        </Box>
      </Box>
    </>
  );
}

/** Why a level alone does not say what flows here; nothing where it may. */
function ByLevelAlone({ view }: { view: DischargeView }) {
  const found = useMemo(() => {
    const reckon = stationDischarge(view.sections, view.curves);
    const { at, level, velocity } = view.record;
    return notOneToOne(
      at.map((t, i) => ({ level: level[i]!, discharge: reckon(t, level[i]!, velocity[i]!) })),
    );
  }, [view]);
  if (!found) return null;
  return (
    <Typography variant="body2" sx={{ mt: 1 }}>
      No rating by level here:{' '}
      {found.kind === 'reverse'
        ? `the water ran back for ${formatValue(100 * found.share, 0)} % of the last days`
        : `a level carried ${formatValue(100 * found.share, 0)} % more or less while it rose than while it fell`}
      . A level alone does not say what flows.
    </Typography>
  );
}
