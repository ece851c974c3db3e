'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useDeferredValue, useMemo, useState } from 'react';
import type { MeterView } from '@/contract/bench';
import type { MeterRange } from '@/core/circuit/meter';
import { betweenPoints, dividedBy, errorsOfOwn, nodesOf } from '@/core/circuit/own';
import { ownMeasured } from '@/core/circuit/ownMeasured';
import { planMeasurement, type PlannedCircuit } from '@/core/circuit/plan';
import { ohmsText } from '@/core/circuit/words';
import { MeterEntry } from '../bench/MeterEntry';
import { MeterField } from '../bench/MeterField';
import { PairsTable, partsText, PlanFoot } from '../bench/PairsTable';
import { dialText } from '../bench/texts';
import { Sum } from '../shared/Sum';
import type { CircuitInHand } from './useCircuit';

/** What a meter should show on a circuit, what it showed, and what that says. */
export function Measured({
  inHand,
  planned,
  meters,
  clips,
  onClips,
}: {
  inHand: CircuitInHand;
  planned: PlannedCircuit;
  meters: readonly MeterView[];
  clips: readonly [string, string] | null;
  onClips: (clips: readonly [string, string] | null) => void;
}) {
  const { circuit, readings } = inHand.drawn;
  const [meterId, setMeterId] = useState(meters[0]?.id ?? '');
  const meter = meters.find((m) => m.id === meterId) ?? null;
  const later = useDeferredValue(planned);
  const plan = useMemo(() => meter && planMeasurement(later, meter.ranges), [later, meter]);
  const points = planned.now.points.map((p) => p.node);
  const [a, b] = clips ?? [points[0]!, points[1]!];
  const between = useMemo(
    () => (a === b || !points.includes(a) || !points.includes(b) ? null : betweenPoints(planned, a, b)),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the points are the circuit's
    [planned, a, b],
  );
  const divided = dividedBy(planned);
  const said = useMemo(() => ownMeasured(circuit, planned.now, readings), [circuit, planned, readings]);
  const ranges = (meter?.ranges ?? []).filter((r) => r.does === 'ohms').sort((x, y) => x.upTo - y.upTo);
  const preferred: MeterRange | null =
    (between && ranges.find((r) => r.upTo >= Math.max(between.ohms, between.span[1]))) ??
    ranges.find((r) => between && r.upTo >= between.ohms) ??
    null;
  const pointField = (label: string, value: string, put: (node: string) => void) => (
    <TextField
      select
      size="medium"
      label={label}
      value={points.includes(value) ? value : ''}
      onChange={(e) => put(e.target.value)}
      sx={{ minWidth: 130 }}
    >
      {points.map((n) => (
        <MenuItem key={n} value={n} sx={{ minHeight: 48 }}>
          {n}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box sx={{ display: 'grid', gap: 2, mt: 2 }}>
      <Box component="section" aria-label="Between two points" sx={{ displayPrint: 'none' }}>
        <Typography variant="h2">Between two points</Typography>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
          {pointField('Clip A on', a, (n) => onClips([n, b]))}
          {pointField('Clip B on', b, (n) => onClips([a, n]))}
          <Typography role="status" sx={{ fontSize: '1.25rem', fontWeight: 600 }}>
            {a === b
              ? 'one point'
              : between === null || between.ohms === Infinity
                ? 'open: nothing joins them'
                : ohmsText(between.ohms)}
          </Typography>
          {between && between.ohms < Infinity && (
            <Box>
              {between.span[1] > between.span[0] * 1.001 && (
                <Typography variant="body2">
                  {ohmsText(between.span[0])} … {ohmsText(between.span[1])} over its range
                </Typography>
              )}
              <Sum>{partsText(between.parts)}</Sum>
            </Box>
          )}
        </Box>
      </Box>
      <Divider inHand={inHand} divided={divided} />
      <Box component="section" aria-label="Plan">
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
          <Typography variant="h2" sx={{ flexGrow: 1 }}>
            What to measure
          </Typography>
          {meters.length > 0 && <MeterField meters={meters} meterId={meterId} onMeter={setMeterId} />}
        </Box>
        <Typography sx={{ mb: 1 }}>
          Volts, AC and DC, between the points come first; ohms only where both are near nothing.
        </Typography>
        {plan ? (
          <>
            <PairsTable
              plan={plan}
              errors={errorsOfOwn(circuit, plan)}
              unit={circuit.says?.unit ?? ''}
              chosen={plan.pairs.findIndex((p) => samePair({ from: p.from.node, to: p.to.node }, a, b))}
              onTake={(i) => onClips([plan.pairs[i]!.from.node, plan.pairs[i]!.to.node])}
            />
            <PlanFoot plan={plan} />
            {plan.lift.length > 0 && (
              <Typography>Opened, these links tell more apart: {plan.lift.join(', ')}.</Typography>
            )}
          </>
        ) : (
          <Typography>
            No meter in the kit yet. <PageLink href="/kit/meters">Add one</PageLink>, with what each position
            of its dial states.
          </Typography>
        )}
      </Box>
      {meter && (
        <Box
          component="section"
          aria-label="Readings"
          sx={readings.length === 0 ? { displayPrint: 'none' } : undefined}
        >
          <Typography variant="h2">What it showed</Typography>
          <Box sx={{ displayPrint: 'none' }}>
            <Typography>
              Clip A on <b>{a}</b>, clip B on <b>{b}</b>:
            </Typography>
            {between && between.ohms < Infinity ? (
              <MeterEntry
                key={`${meterId} ${a} ${b}`}
                label={`${a} to ${b}`}
                ranges={ranges}
                preferred={preferred}
                isBusy={false}
                onRead={(shows, _, range) =>
                  shows !== null &&
                  shows > 0 &&
                  inHand.read([
                    ...readings.filter((r) => !samePair(r, a, b)),
                    { from: a, to: b, ohms: shows, range },
                  ])
                }
              />
            ) : (
              <Typography color="text.secondary">Choose two points that something joins.</Typography>
            )}
          </Box>
          {readings.map((r) => (
            <Box
              key={`${r.from} ${r.to}`}
              sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}
            >
              <Typography>
                {r.from} – {r.to}: <b>{ohmsText(r.ohms)}</b> on {dialText(r.range)}
              </Typography>
              <Button
                size="small"
                sx={{ minHeight: 40, displayPrint: 'none' }}
                onClick={() => inHand.read(readings.filter((o) => o !== r))}
              >
                Leave out
              </Button>
            </Box>
          ))}
          {said.contradictions.map((text) => (
            <Typography key={text} role="alert" sx={{ fontWeight: 600 }}>
              {text}
            </Typography>
          ))}
          {said.elements.length > 0 && (
            <Box component="ul" aria-label="What the readings say" sx={{ pl: 2.5, my: 1 }}>
              {said.elements.map((e) => (
                <li key={e.id}>
                  <b>{e.id}</b> {e.says} <Sum>{e.sum}</Sum>
                </li>
              ))}
            </Box>
          )}
          {readings.length > 0 && said.elements.length === 0 && (
            <Typography>They tell no element by itself yet: measure the pairs of the plan.</Typography>
          )}
          {said.gains.map((g) => (
            <Typography key={g}>{g}</Typography>
          ))}
          {said.unjoined > 0 && (
            <Typography color="text.secondary">
              {said.unjoined} {said.unjoined === 1 ? 'reading is' : 'readings are'} left alone: nothing joins
              their points now.
            </Typography>
          )}
        </Box>
      )}
    </Box>
  );
}

const samePair = (r: { from: string; to: string }, a: string, b: string): boolean =>
  (r.from === a && r.to === b) || (r.from === b && r.to === a);

/** Where a voltage is put and where it is read: the ratio, now and over the range. */
function Divider({
  inHand,
  divided,
}: {
  inHand: CircuitInHand;
  divided: readonly [number, number, number] | null;
}) {
  const { circuit } = inHand.drawn;
  const nodes = nodesOf(circuit);
  const field = (key: 'excitation' | 'output', end: 0 | 1, label: string) => (
    <TextField
      select
      size="medium"
      label={label}
      value={nodes.includes(circuit[key]?.[end] ?? '') ? circuit[key]![end] : ''}
      onChange={(e) => {
        const node = e.target.value;
        const other = circuit[key]?.[1 - end] ?? nodes.find((n) => n !== node) ?? node;
        inHand.change(
          { [key]: node === '' ? null : end === 0 ? [node, other] : [other, node] },
          `${key} ${end}`,
        );
      }}
      sx={{ minWidth: 150 }}
    >
      <MenuItem value="" sx={{ minHeight: 48 }}>
        none
      </MenuItem>
      {nodes.map((n) => (
        <MenuItem key={n} value={n} sx={{ minHeight: 48 }}>
          {n}
        </MenuItem>
      ))}
    </TextField>
  );
  const four = (v: number) => (Number.isFinite(v) ? Number(v.toPrecision(4)) : '–');
  return (
    <Box component="section" aria-label="Excited" sx={{ displayPrint: 'none' }}>
      <Typography variant="h2">Excited</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
        {field('excitation', 0, 'Excitation +')}
        {field('excitation', 1, 'Excitation −')}
        {field('output', 0, 'Output +')}
        {field('output', 1, 'Output −')}
        {divided && (
          <Box role="status">
            <Typography sx={{ fontSize: '1.25rem', fontWeight: 600 }}>{four(divided[0])} V per V</Typography>
            {divided[1] !== divided[2] && (
              <Sum>
                {four(Math.min(divided[1], divided[2]))} … {four(Math.max(divided[1], divided[2]))} over its
                range
              </Sum>
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
}
