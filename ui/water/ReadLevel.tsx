'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { MeasuringPointView, WaterView } from '@/contract/water';
import { levelFault, levelQuestion } from '@/core/water/levelFault';
import { levelSum, type LevelRecord } from '@/core/water/levelSum';
import { pointKinds, pointRules, readNames, type ReadKind } from '@/core/water/measuringPoint';
import { metresOf } from '@/core/water/metres';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId, Refusal } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { useKeys } from '../shared/useKeys';
import { useNow } from '../shared/useNow';
import { besideNow } from './besideNow';
import { emptyDraft, readingFrom, type ReadDraft } from './readDraft';
import { ReadFields } from './ReadFields';

/** Now, to the second. */
const nowMs = () => Math.floor(Date.parse(nowText()) / 1000) * 1000;

/** Read a level: from which point, when, what it shows; its sum beside it before it is kept. */
export function ReadLevel({
  view,
  record,
  onKept,
}: {
  view: WaterView;
  record: LevelRecord;
  onKept: () => Promise<void>;
}) {
  const points = view.points
    .filter((p) => !p.retiredAt && pointRules[p.kind].reads.length > 0)
    .sort((a, b) => pointKinds.indexOf(a.kind) - pointKinds.indexOf(b.kind));
  const [pointId, setPointId] = useState<string | null>(points[0]?.id ?? null);
  const point = points.find((p) => p.id === pointId) ?? null;
  return (
    <Box component="section" aria-labelledby="read-level">
      <Typography variant="h2" id="read-level" sx={{ mb: 1 }}>
        Read a level
      </Typography>
      <Box role="group" aria-label="Read from" sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5 }}>
        {points.map((p) => (
          <PointButton key={p.id} point={p} isChosen={p.id === pointId} onChoose={() => setPointId(p.id)} />
        ))}
        <PointButton point={null} isChosen={point === null} onChoose={() => setPointId(null)} />
      </Box>
      <ReadForm key={point?.id ?? ''} view={view} record={record} point={point} onKept={onKept} />
    </Box>
  );
}

function PointButton({
  point,
  isChosen,
  onChoose,
}: {
  point: MeasuringPointView | null;
  isChosen: boolean;
  onChoose: () => void;
}) {
  return (
    <ButtonBase
      aria-pressed={isChosen}
      onClick={onChoose}
      sx={{
        font: 'inherit',
        minHeight: 56,
        px: 1.5,
        border: 2,
        borderColor: isChosen ? 'primary.main' : 'divider',
        bgcolor: isChosen ? 'ground.skyWash' : 'background.paper',
        borderRadius: 1,
        display: 'grid',
        justifyItems: 'start',
        textAlign: 'left',
        maxWidth: '100%',
      }}
    >
      <span>
        <b>{point?.code ?? 'Σ'}</b> {point?.name ?? 'By hand'}
      </span>
      <Typography component="span" variant="caption" color="text.secondary">
        {point ? pointRules[point.kind].name : 'no elevation on file'}
      </Typography>
    </ButtonBase>
  );
}

function ReadForm({
  view,
  record,
  point,
  onKept,
}: {
  view: WaterView;
  record: LevelRecord;
  point: MeasuringPointView | null;
  onKept: () => Promise<void>;
}) {
  const rule = point ? pointRules[point.kind] : null;
  const kinds: readonly ReadKind[] = rule?.reads ?? ['sum'];
  const [draft, setDraft] = useState<ReadDraft>(() => emptyDraft(kinds[0]!));
  // Null until the first figure is typed: that is when it was read.
  const [at, setAt] = useState<number | null>(null);
  const [accuracy, setAccuracy] = useState(String(rule?.accuracy ?? 0.01));
  const [looked, setLooked] = useState(false);
  const now = useNow(Number.NaN);
  const keep = useFieldWrite<'levelReading'>(onKept);
  const when = at ?? Math.floor(now / 1000) * 1000;
  const reading = readingFrom(view, draft, {
    id: 'draft',
    pointId: point?.id ?? null,
    at: when,
    accuracy: metresOf(accuracy),
  });
  const fault = reading && levelFault(reading, point, record.readings);
  const sum =
    reading && !fault ? levelSum(reading, { ...record, readings: [...record.readings, reading] }) : null;
  const question = sum && !looked ? levelQuestion(sum, besideNow(view, reading!)) : null;
  const change = (next: ReadDraft) => {
    setDraft(next);
    setLooked(false);
    if (at === null && Object.values(next.typed).some((t) => t !== '')) setAt(nowMs());
  };
  const start = (kind: ReadKind) => {
    setDraft(emptyDraft(kind));
    setAt(null);
    setLooked(false);
  };
  useKeys({ n: () => setAt(nowMs()) });
  const send = () => {
    if (!reading || fault || question || !Number.isFinite(when)) return;
    keep.mutate({
      kind: 'levelReading',
      stationId: view.stationId,
      where: `${view.code} ${point?.code ?? ''}`.trim(),
      zone: view.zone,
      body: {
        readingId: newId(),
        pointId: reading.pointId,
        read: reading.read,
        accuracy: reading.accuracy,
        surveyId: reading.elevation?.surveyId ?? null,
        lookedAgain: looked,
        occurredAt: new Date(when).toISOString(),
      },
      onKept: () => start(draft.kind === 'bar' ? 'wire' : draft.kind),
    });
  };
  return (
    <Box
      component="form"
      aria-label={point ? `Reading of ${point.code}` : 'Level by hand'}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
      sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: 'minmax(0, 1fr)' }}
    >
      {kinds.length > 1 && (
        <ToggleButtonGroup
          exclusive
          value={draft.kind}
          aria-label="What is read"
          onChange={(_, kind: ReadKind | null) => kind && start(kind)}
          sx={{ flexWrap: 'wrap' }}
        >
          {kinds.map((k) => (
            <ToggleButton key={k} value={k} sx={{ minHeight: 48, px: 2 }}>
              {readNames[k]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}>
        <ReadFields
          draft={draft}
          zone={view.zone}
          air={view.air}
          crests={point ? (view.crests[point.id] ?? []) : []}
          onChange={change}
        />
        <TextField
          size="medium"
          label="Good to ±, m"
          value={accuracy}
          error={!(metresOf(accuracy) > 0)}
          helperText=" "
          onChange={(e) => setAccuracy(e.target.value)}
          sx={{ width: 130 }}
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <InstantField label="Read at" value={when} zone={view.zone} seconds onChange={(ms) => setAt(ms)} />
        <Button sx={gloved} onClick={() => setAt(nowMs())} title="n">
          Now
        </Button>
        {at === null && (
          <Typography variant="body2" color="text.secondary">
            Set when you type the first figure.
          </Typography>
        )}
      </Box>
      <Box
        role="status"
        aria-label="Sum"
        sx={{ minHeight: 56, borderLeft: 4, borderColor: 'divider', pl: 1.5, display: 'grid', gap: 0.5 }}
      >
        {fault ? (
          <Typography>
            {fault.says} {fault.remedy}
          </Typography>
        ) : sum ? (
          <>
            <Typography sx={{ fontSize: '1.3rem', fontWeight: 600 }}>{sum.text}</Typography>
            <Sum>
              {sum.terms.map((t) => t.what).join(' · ')} · ±{sum.accuracy.toFixed(3)} m
            </Sum>
            {sum.doubts.map((d) => (
              <Typography key={d} variant="body2">
                ◇ {d}
              </Typography>
            ))}
          </>
        ) : (
          <Typography color="text.secondary">The sum stands here before it is kept.</Typography>
        )}
      </Box>
      {question && (
        <Box
          role="alert"
          sx={{ border: 2, borderColor: 'warning.main', bgcolor: 'ground.ochreWash', p: 1.5 }}
        >
          <Typography>
            {question.says} {question.remedy}
          </Typography>
          <Button sx={{ ...gloved, mt: 1 }} onClick={() => setLooked(true)}>
            I looked again: it stands so
          </Button>
        </Box>
      )}
      <ProblemNote error={keep.error}>
        {keep.error instanceof Refusal && keep.error.problem.code === 'look-again' && !looked && (
          <Button sx={{ ...gloved, display: 'block', mt: 1 }} onClick={() => setLooked(true)}>
            I looked again: it stands so
          </Button>
        )}
      </ProblemNote>
      <Button
        type="submit"
        variant="contained"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={!sum || question !== null || keep.isPending || !Number.isFinite(when)}
      >
        Keep this reading
      </Button>
    </Box>
  );
}
