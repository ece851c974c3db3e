'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { memo, useCallback, useDeferredValue, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { CurveView, DischargeView, SectionView } from '@/contract/discharge';
import { usualK, type Support } from '@/core/discharge/curve';
import { dischargeDoubt, dischargeDoubts, dischargesOf } from '@/core/discharge/discharge';
import { fitCurve } from '@/core/discharge/fitCurve';
import { sectionTable } from '@/core/discharge/section';
import { curvesOf } from '@/core/discharge/stationDischarge';
import { formatValue, roundTo } from '@/core/quantity/format';
import { useMay } from '../shared/person';
import { timeText } from '../shared/time';
import { useHistory } from '../shared/useHistory';
import { Gaugings } from './Gaugings';
import { besideCurve, gaugedBeside } from './gauged';
import { Hydrograph } from './Hydrograph';
import { SaveCurve, type Led } from './SaveCurve';
import { SharedLevel } from './SharedLevel';
import { Supports } from './Supports';
import { TakeBack } from '../shared/TakeBack';

type Way = 'forward' | 'reverse';

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
    const of = dischargeDoubts({
      section: section.uncertainty,
      k: curve.uncertainty,
      level: view.level?.tolerance ?? 0,
      velocity: view.velocity?.tolerance ?? 0,
    });
    return Float64Array.from(view.record.level, (level, i) =>
      dischargeDoubt(table, curves, level, view.record.velocity[i]!, of),
    );
  }, [table, curves, view, section.uncertainty, curve.uncertainty]);
  const gauged = useMemo(() => gaugedBeside(view), [view]);
  const change = useCallback(
    (to: (now: readonly Support[]) => readonly Support[], isOneStep = false) =>
      edit((now) => ({ ...now, [way]: to(now[way] ?? now.forward) }), isOneStep),
    [edit, way],
  );
  const turn = useCallback(
    (to: Way) => {
      if (to === 'reverse') edit((now) => (now.reverse ? now : { ...now, reverse: now.forward }));
      setWay(to);
    },
    [edit],
  );
  const fit = useCallback(() => {
    const points = gauged.flatMap((b) =>
      b.k && b.isReverse === (way === 'reverse') ? [{ level: b.gauging.level, k: b.k.value, U: b.k.U }] : [],
    );
    change((now) => fitCurve(now, points).map((s) => ({ ...s, k: roundTo(s.k, 3) })));
  }, [gauged, way, change]);
  // What is read rather than led follows as soon as there is time: a drag does not wait for it.
  const settled = useDeferredValue(led);
  const beside = useMemo(() => besideCurve(gauged, curvesOf(settled)), [gauged, settled]);
  const newest = useRef(led);
  useLayoutEffect(() => {
    newest.current = led;
  });
  const ledNow = useCallback(() => newest.current, []);
  const isLaterLed = settled.forward !== curve.forward || settled.reverse !== curve.reverse;
  const odd = useMemo(
    () =>
      [...settled.forward, ...(settled.reverse ?? [])].find((s) => s.k < usualK[0] || s.k > usualK[1])?.k ??
      null,
    [settled],
  );
  return (
    <Box component="section" aria-label="k curve">
      <CurveHead
        view={view}
        curve={curve}
        way={way}
        onWay={turn}
        onFit={fit}
        undo={canUndo ? undo : null}
        redo={canRedo ? redo : null}
      />
      <Box sx={{ overflowX: 'auto' }}>
        <SharedLevel
          points={section.points}
          table={table}
          levels={record.level}
          curves={curves}
          saved={isLed ? saved : null}
          supports={may ? supports : null}
          gaugings={gauged}
          discharges={discharges}
          onMove={(i, to, isOneStep) => change((now) => now.map((s, n) => (n === i ? to : s)), isOneStep)}
        />
      </Box>
      <Typography variant="caption" color="text.secondary">
        Bars: gaugings with what they are good to (95 %). Diamonds lead the curve: drag, or arrow keys (with
        Shift a smaller step; up and down move its level). Dashed: as saved. Dots: recorded moments of the
        last days.
      </Typography>
      {may && <Supports supports={supports} onChange={change} />}
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
      {may && isLaterLed && (
        <SaveCurve view={view} curve={curve} odd={odd} ledNow={ledNow} onSaved={onChanged} />
      )}
      {may && !isLaterLed && (
        <Box>
          <TakeBack
            address={`/api/v1/stations/${view.stationId}/discharge/curves/${curve.id}`}
            what={`curve ${curve.number}`}
            onChanged={onChanged}
          />
        </Box>
      )}
      <Gaugings view={view} beside={beside} onChanged={onChanged} />
    </Box>
  );
}

/** Which curve it is, and what is done to all of it. */
const CurveHead = memo(function CurveHead({
  view,
  curve,
  way,
  onWay,
  onFit,
  undo,
  redo,
}: {
  view: DischargeView;
  curve: CurveView;
  way: Way;
  onWay: (way: Way) => void;
  onFit: () => void;
  /** Null where there is nothing to take back, or to do again. */
  undo: (() => void) | null;
  redo: (() => void) | null;
}) {
  const may = useMay('mark');
  return (
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
              if (to) onWay(to);
            }}
          >
            <ToggleButton value="forward">With the stream</ToggleButton>
            <ToggleButton value="reverse">Against it</ToggleButton>
          </ToggleButtonGroup>
          <Button onClick={onFit}>Fit to the gaugings</Button>
          <Button onClick={undo ?? undefined} disabled={!undo}>
            Undo
          </Button>
          <Button onClick={redo ?? undefined} disabled={!redo}>
            Redo
          </Button>
        </Box>
      )}
    </Box>
  );
});
