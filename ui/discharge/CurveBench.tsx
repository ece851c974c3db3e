'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { CurveView, DischargeView, SectionView, SetCurve } from '@/contract/discharge';
import { usualK, type Support } from '@/core/discharge/curve';
import { dischargeDoubt, dischargesOf } from '@/core/discharge/discharge';
import { fitCurve } from '@/core/discharge/fitCurve';
import { sectionTable } from '@/core/discharge/section';
import { curvesOf } from '@/core/discharge/stationDischarge';
import { formatValue, roundTo } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { nowMs } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { numberOf } from '../shared/numberOf';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useHistory } from '../shared/useHistory';
import { Gaugings } from './Gaugings';
import { besideCurve } from './gauged';
import { Hydrograph } from './Hydrograph';
import { SharedLevel } from './SharedLevel';
import { TakeBack } from '../shared/TakeBack';

type Way = 'forward' | 'reverse';
/** Supports of the curve with the stream, and against it. */
type Led = Pick<CurveView, 'forward' | 'reverse'>;

/** The curve is led: moved by its supports, or by a fit; what it would change is drawn at once. */
export function CurveBench({
  view,
  section,
  curve,
  onChanged,
}: {
  view: DischargeView;
  section: SectionView;
  curve: CurveView;
  onChanged: () => Promise<void>;
}) {
  const may = useMay('mark');
  const {
    now: led,
    edit,
    undo,
    redo,
    canUndo,
    canRedo,
  } = useHistory<Led>({
    forward: curve.forward,
    reverse: curve.reverse,
  });
  const [way, setWay] = useState<Way>('forward');
  const supports = led[way] ?? led.forward;
  const curves = useMemo(() => curvesOf(led), [led]);
  const saved = useMemo(() => curvesOf(curve), [curve]);
  const table = useMemo(() => sectionTable(section.points), [section.points]);
  const record = useMemo(
    () => ({
      level: Float64Array.from(view.record.level),
      velocity: Float64Array.from(view.record.velocity),
    }),
    [view.record],
  );
  const savedQ = useMemo(
    () => dischargesOf(table, saved, record.level, record.velocity),
    [table, saved, record],
  );
  const isLed = led.forward !== curve.forward || led.reverse !== curve.reverse;
  const discharges = useMemo(
    () => ({
      now: isLed ? dischargesOf(table, curves, record.level, record.velocity) : savedQ,
      saved: isLed ? savedQ : null,
    }),
    [table, curves, record, savedQ, isLed],
  );
  const doubt = useMemo(() => {
    const of = {
      section: section.uncertainty / 2,
      k: curve.uncertainty / 2,
      level: (view.level?.tolerance ?? 0) / Math.sqrt(3),
      velocity: 0,
      velocityLeast: (view.velocity?.tolerance ?? 0) / Math.sqrt(3),
    };
    return Float64Array.from(view.record.level, (level, i) =>
      dischargeDoubt(table, curves, level, view.record.velocity[i]!, of),
    );
  }, [table, curves, view, section.uncertainty, curve.uncertainty]);
  const beside = useMemo(() => besideCurve(view, curves), [view, curves]);
  const put = (next: readonly Support[], isOneStep = false) =>
    edit((now) => ({ ...now, [way]: next }), isOneStep);
  const fit = () =>
    put(
      fitCurve(
        supports,
        beside.flatMap((b) =>
          b.k && b.isReverse === (way === 'reverse')
            ? [{ level: b.gauging.level, k: b.k.value, U: b.k.U }]
            : [],
        ),
      ).map((s) => ({ ...s, k: roundTo(s.k, 3) })),
    );
  return (
    <Box component="section" aria-label="k curve">
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h2">Curve {curve.number}</Typography>
        <Typography color="text.secondary">
          from {timeText(curve.from, view.zone)}, led by {curve.by}: {curve.note}
        </Typography>
        {may && (
          <Box sx={{ ml: 'auto', display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            <ToggleButtonGroup
              exclusive
              value={way}
              aria-label="Which curve"
              onChange={(_, to: Way | null) => {
                if (!to) return;
                if (to === 'reverse' && !led.reverse) edit((now) => ({ ...now, reverse: now.forward }));
                setWay(to);
              }}
            >
              <ToggleButton value="forward">With the stream</ToggleButton>
              <ToggleButton value="reverse">Against it</ToggleButton>
            </ToggleButtonGroup>
            <Button onClick={fit}>Fit to the gaugings</Button>
            <Button onClick={undo} disabled={!canUndo}>
              Undo
            </Button>
            <Button onClick={redo} disabled={!canRedo}>
              Redo
            </Button>
          </Box>
        )}
      </Box>
      <Box sx={{ overflowX: 'auto' }}>
        <SharedLevel
          view={view}
          section={section}
          curves={curves}
          saved={isLed ? saved : null}
          supports={may ? supports : null}
          beside={beside}
          discharges={discharges}
          onMove={(i, to, isOneStep) =>
            put(
              supports.map((s, n) => (n === i ? to : s)),
              isOneStep,
            )
          }
        />
      </Box>
      <Typography variant="caption" color="text.secondary">
        Bars: gaugings with what they are good to (95 %). Diamonds lead the curve: drag, or arrow keys (with
        Shift a smaller step; up and down move its level). Dashed: as saved. Dots: recorded moments of the
        last days.
      </Typography>
      {may && <Supports supports={supports} onChange={put} />}
      <Box sx={{ overflowX: 'auto', mt: 1 }}>
        <Hydrograph
          at={view.record.at}
          now={discharges.now}
          saved={discharges.saved}
          doubt={doubt}
          zone={view.zone}
        />
      </Box>
      <Typography variant="caption" color="text.secondary">
        Discharge, m³/s, with its uncertainty (95 %: section ± {formatValue(100 * section.uncertainty, 1)} %,
        k ± {formatValue(100 * curve.uncertainty, 1)} %, level, velocity). Each value by the section of{' '}
        {timeText(section.from, view.zone).slice(0, 10)} and curve {curve.number}, led by{' '}
        {curve.gaugings.length} gaugings.
      </Typography>
      {may && isLed && <SaveCurve view={view} curve={curve} led={led} onSaved={onChanged} />}
      {may && !isLed && (
        <Box>
          <TakeBack
            address={`/api/v1/stations/${view.stationId}/discharge/curves/${curve.id}`}
            onChanged={onChanged}
          />
        </Box>
      )}
      <Gaugings view={view} beside={beside} onChanged={onChanged} />
    </Box>
  );
}

/** The supports as numbers. */
function Supports({
  supports,
  onChange,
}: {
  supports: readonly Support[];
  onChange: (next: readonly Support[]) => void;
}) {
  const last = supports.at(-1)!;
  return (
    <Box
      role="group"
      aria-label="Supports"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1, alignItems: 'center' }}
    >
      {supports.map((s, i) => (
        <KField
          key={`${s.level} ${s.k}`}
          support={s}
          onChange={(k) => onChange(supports.map((o, n) => (n === i ? { ...o, k } : o)))}
          onLeaveOut={supports.length > 1 ? () => onChange(supports.filter((_, n) => n !== i)) : null}
        />
      ))}
      <Button onClick={() => onChange([...supports, { level: roundTo(last.level + 0.5, 3), k: last.k }])}>
        Another support
      </Button>
    </Box>
  );
}

function KField({
  support,
  onChange,
  onLeaveOut,
}: {
  support: Support;
  onChange: (k: number) => void;
  onLeaveOut: (() => void) | null;
}) {
  const [text, setText] = useState(formatValue(support.k, 3));
  const k = numberOf(text);
  const take = () => k > 0 && k <= 5 && k !== support.k && onChange(roundTo(k, 3));
  return (
    <Box sx={{ display: 'flex', alignItems: 'center' }}>
      <TextField
        label={`k at ${formatValue(support.level, 2)} m`}
        value={text}
        error={!(k > 0 && k <= 5)}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => e.key === 'Enter' && take()}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        sx={{ width: 108 }}
      />
      {onLeaveOut && (
        <Button
          size="small"
          aria-label={`Leave out the support at ${formatValue(support.level, 2)} m`}
          onClick={onLeaveOut}
          sx={{ minWidth: 32 }}
        >
          ×
        </Button>
      )}
    </Box>
  );
}

/** Keeps what was led as another version, from an instant on. */
function SaveCurve({
  view,
  curve,
  led,
  onSaved,
}: {
  view: DischargeView;
  curve: CurveView;
  led: Led;
  onSaved: () => Promise<void>;
}) {
  const [from, setFrom] = useState(() => Math.floor(nowMs() / 60_000) * 60_000);
  const [note, setNote] = useState('');
  const [percent, setPercent] = useState(String(roundTo(100 * curve.uncertainty, 1)));
  const [looked, setLooked] = useState(false);
  const share = numberOf(percent) / 100;
  const odd = [...led.forward, ...(led.reverse ?? [])].find((s) => s.k < usualK[0] || s.k > usualK[1]);
  const save = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/discharge/curves`, {
        curveId: newId(),
        basedOn: curve.id,
        forward: [...led.forward],
        reverse: led.reverse && [...led.reverse],
        uncertainty: share,
        holdsFrom: new Date(from).toISOString(),
        note,
        lookedAgain: looked,
      } satisfies SetCurve),
    onSuccess: onSaved,
  });
  return (
    <Box
      component="form"
      aria-label="Keep this curve"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{
        display: 'flex',
        gap: 1,
        flexWrap: 'wrap',
        alignItems: 'center',
        mt: 1.5,
        p: 1.5,
        border: 2,
        borderColor: 'primary.main',
      }}
    >
      <Typography variant="body2" sx={{ flexBasis: '100%' }}>
        From then on it takes the place of every curve before; the discharges since are reckoned anew.
      </Typography>
      <InstantField label="Holds from" value={from} zone={view.zone} onChange={setFrom} />
      <TextField
        label="k good to ±, %"
        value={percent}
        onChange={(e) => setPercent(e.target.value)}
        sx={{ width: 140 }}
      />
      <TextField
        label="Why"
        value={note}
        onChange={(e) => setNote(e.target.value)}
        sx={{ width: 300, maxWidth: '100%' }}
      />
      {odd && (
        <FormControlLabel
          control={<Checkbox checked={looked} onChange={(_, on) => setLooked(on)} />}
          label={`A k of ${formatValue(odd.k, 3)} is outside ${usualK[0]}–${usualK[1]}: I looked again, it stands`}
        />
      )}
      <Button
        type="submit"
        variant="contained"
        sx={gloved}
        disabled={
          note.trim().length < 3 ||
          !(share > 0 && share <= 1) ||
          !Number.isFinite(from) ||
          (odd !== undefined && !looked) ||
          save.isPending
        }
      >
        Keep as curve {curve.number + 1}
      </Button>
      <ProblemNote error={save.error} />
    </Box>
  );
}
