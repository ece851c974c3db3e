'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { SurveyView, WaterView } from '@/contract/water';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { toDatum } from '@/core/water/datum';
import { reduceSheet } from '@/core/water/levelling';
import { pointRules } from '@/core/water/measuringPoint';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';
import { StationHead } from '../station/StationHead';
import { DatumForm } from './DatumForm';
import { TakeBack } from './LevelLine';
import { AddPoint, RetirePoint } from './PointForms';
import { SheetTable } from './SheetTable';
import { useWater } from './useWater';

/** What levels are read from, above which zero, and how that was levelled. */
export function PointsPage({ initial }: { initial: WaterView }) {
  const { view, error, changed } = useWater(initial);
  const maySetUp = useMay('set-up');
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name}>
        <Button component={PageLink} href={`/stations/${view.stationId}/water`}>
          Levels
        </Button>
        {useMay('measure') && (
          <Button component={PageLink} href={`/stations/${view.stationId}/water/survey`} variant="contained">
            Enter a survey
          </Button>
        )}
      </StationHead>
      <ProblemNote error={error} />
      <Box component="section" aria-labelledby="datum" sx={{ mb: 3 }}>
        <Typography variant="h2" id="datum" sx={{ mb: 1 }}>
          Datum
        </Typography>
        <Typography>
          {view.datum ? (
            <>
              Levels are above <b>{view.datum.name}</b>.
            </>
          ) : (
            'Levels are above the station’s own zero; it has no name yet.'
          )}
        </Typography>
        {view.datum?.others.map((o) => (
          <Typography key={o.name}>
            Its zero lies at {formatDifference(o.zero, 3)} m in {o.name}.{' '}
            <Sum>
              1.000 {o.zero < 0 ? '−' : '+'} {formatValue(Math.abs(o.zero), 3)} ={' '}
              {formatValue(toDatum(1, o), 3)} m
            </Sum>
          </Typography>
        ))}
        {maySetUp && <DatumForm key={view.datum?.id ?? ''} view={view} onSaved={changed} />}
      </Box>
      <Box component="section" aria-labelledby="points" sx={{ mb: 3, overflowX: 'auto' }}>
        <Typography variant="h2" id="points" sx={{ mb: 1 }}>
          Measuring points
        </Typography>
        {view.points.length === 0 ? (
          <Typography>None yet.</Typography>
        ) : (
          <Points view={view} mayRetire={maySetUp} onChanged={changed} />
        )}
        {maySetUp && <AddPoint view={view} onSaved={changed} />}
      </Box>
      <Box component="section" aria-labelledby="surveys">
        <Typography variant="h2" id="surveys" sx={{ mb: 1 }}>
          Surveys
        </Typography>
        {view.surveys.length === 0 && <Typography>None on file: no point has an elevation.</Typography>}
        {view.surveys.map((s) => (
          <Survey key={s.id} view={view} survey={s} onChanged={changed} />
        ))}
      </Box>
    </>
  );
}

function Points({
  view,
  mayRetire,
  onChanged,
}: {
  view: WaterView;
  mayRetire: boolean;
  onChanged: () => Promise<void>;
}) {
  return (
    <Table size="small" aria-label="Measuring points">
      <TableHead>
        <TableRow>
          <TableCell>Point</TableCell>
          <TableCell>Kind</TableCell>
          <TableCell>Elevation, m</TableCell>
          {mayRetire && <TableCell />}
        </TableRow>
      </TableHead>
      <TableBody>
        {view.points.map((p) => (
          <TableRow key={p.id} sx={{ verticalAlign: 'top' }}>
            <TableCell>
              <b>{p.code}</b> {p.name}
              {p.retiredAt && ` (there no more since ${p.retiredAt.slice(0, 10)})`}
            </TableCell>
            <TableCell>{pointRules[p.kind].name}</TableCell>
            <TableCell>
              {view.elevations
                .filter((e) => e.pointId === p.id)
                .map((e, i, all) => (
                  <div key={e.surveyId}>
                    {formatValue(e.elevation, 4)} ± {formatValue(e.accuracy, 4)},{' '}
                    {pointRules[p.kind].levelled}, since {timeText(e.at, view.zone).slice(0, 10)}
                    {i > 0 && ` (${formatDifference(e.elevation - all[i - 1]!.elevation, 4)})`}
                  </div>
                ))}
              {!view.elevations.some((e) => e.pointId === p.id) && 'not levelled yet'}
            </TableCell>
            {mayRetire && (
              <TableCell>
                {!p.retiredAt && <RetirePoint view={view} point={p} onSaved={onChanged} />}
              </TableCell>
            )}
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function Survey({
  view,
  survey,
  onChanged,
}: {
  view: WaterView;
  survey: SurveyView;
  onChanged: () => Promise<void>;
}) {
  const reduced = survey.sheet && reduceSheet(survey.sheet);
  return (
    <Box component="article" sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Typography variant="h3">
        {timeText(survey.surveyedAt, view.zone)}, {survey.surveyedBy}
      </Typography>
      {reduced ? (
        <>
          <Typography>
            {reduced.misclosure === null
              ? `Not closed, over ${reduced.setUps} set-ups.`
              : `Misclosure ${formatDifference(reduced.misclosure, 4)} m over ${reduced.setUps} set-ups, allowed ±${formatValue(reduced.allowed, 4)} m.`}
          </Typography>
          <details>
            <summary>Levelling sheet</summary>
            <SheetTable view={view} reduced={reduced} />
          </details>
        </>
      ) : (
        <Typography>Stated, without a sheet.</Typography>
      )}
      {survey.note && <Typography>{survey.note}</Typography>}
      <Typography variant="body2" color="text.secondary">
        Entered by {survey.by}.
      </Typography>
      <TakeBack view={view} kind="surveys" id={survey.id} onChanged={onChanged} />
    </Box>
  );
}
