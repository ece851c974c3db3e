'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { DischargeView } from '@/contract/discharge';
import { formatValue } from '@/core/quantity/format';
import { inForceAt } from '@/core/discharge/inForce';
import { newId, send } from '../shared/api';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useNow } from '../shared/useNow';
import { useView } from '../shared/useView';
import { StationHead } from '../station/StationHead';
import { CurveBench } from './CurveBench';
import { GaugingForm } from './GaugingForm';
import { SectionForm } from './SectionForm';
import { StartCurve } from './StartCurve';
import { TakeBack } from '../shared/TakeBack';

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
      {(!view.level || !view.velocity) && (
        <Typography sx={{ mb: 2 }}>
          Discharge by this page needs a channel of level and one of surface velocity; this station lacks{' '}
          {view.level ? 'the velocity' : view.velocity ? 'the level' : 'both'}.
        </Typography>
      )}
      {section ? (
        curve ? (
          <CurveBench key={curve.id} view={view} section={section} curve={curve} onChanged={changed} />
        ) : (
          <StartCurve view={view} section={section} onSaved={changed} />
        )
      ) : (
        <Typography>No cross-section is on file yet: enter one below.</Typography>
      )}
      <Derived view={view} onChanged={changed} />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 4,
          mt: 3,
        }}
      >
        <Box component="section" aria-labelledby="sections">
          <Typography variant="h2" id="sections">
            Sections
          </Typography>
          {view.sections.map((s) => (
            <Box key={s.id} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
              <Typography>
                <b>{timeText(s.from, view.zone).slice(0, 10)}</b>: {s.points.length} points, area ±{' '}
                {formatValue(100 * s.uncertainty, 1)} %. {s.note} {s.by}
              </Typography>
              {mayMeasure && (
                <TakeBack
                  address={`/api/v1/stations/${view.stationId}/discharge/sections/${s.id}`}
                  onChanged={changed}
                />
              )}
            </Box>
          ))}
          {mayMeasure && <SectionForm view={view} onSaved={changed} />}
        </Box>
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

/** The channel of its discharge: there, or to be derived. */
function Derived({ view, onChanged }: { view: DischargeView; onChanged: () => Promise<void> }) {
  const may = useMay('mark');
  const derive = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/derived`, {
        channelId: newId(),
        formula: 'surfaceVelocity',
        zoneName: 'Discharge',
        inputs: { level: view.level!.id, velocity: view.velocity!.id },
        parameters: {},
      }),
    onSuccess: onChanged,
  });
  if (view.dischargeId)
    return (
      <Typography sx={{ mt: 1 }}>
        Its record is reckoned anew whenever level, velocity, section or curve change:{' '}
        <Link component={PageLink} href={`/stations/${view.stationId}/trace/${view.dischargeId}`}>
          trace of the discharge
        </Link>
        .
      </Typography>
    );
  if (!may || !view.level || !view.velocity || view.curves.length === 0) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Button sx={gloved} disabled={derive.isPending} onClick={() => derive.mutate()}>
        Keep a channel of the discharge
      </Button>
      <ProblemNote error={derive.error} />
    </Box>
  );
}
