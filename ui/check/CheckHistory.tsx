'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceDot,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { CheckHistoryView, PastCheck } from '@/contract/checkHistory';
import { groupBy } from '@/core/groupBy';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { load } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { isAway } from '../taken/away';

/** What the checks of a sensor found, one after the other: does it wander, when is it out, what of it wears? */
export function CheckHistory({ stationId, channelId }: { stationId: string; channelId: string }) {
  const path = `/api/v1/stations/${stationId}/channels/${channelId}/checks`;
  const { data, error } = useQuery({
    queryKey: [path],
    queryFn: () => load<CheckHistoryView>(path),
    retry: false,
    enabled: !isAway(),
  });
  if (error) return <ProblemNote error={error} />;
  if (!data || data.checks.length === 0) return null;
  const { checks, unit, decimals, outlook, control, dueAt } = data;
  return (
    <Box component="section" aria-label="Checks of this sensor" sx={{ mt: 4, display: 'grid', gap: 1 }}>
      <Typography variant="h2">Checks of this sensor</Typography>
      {checks.length > 1 && <Chart checks={checks} control={control} unit={unit} />}
      <Typography>
        {outlook
          ? `It drifts by ${formatDifference(outlook.perMonth, decimals + 1)} ± ${formatValue(2 * outlook.uncertainty, decimals + 1)} ${unit} a month and leaves agreement about ${outlook.reachesLimitAt.slice(0, 10)}.`
          : 'No drift that is more than chance.'}
        {dueAt && ` By habit the next is due ${dueAt.slice(0, 10)}.`}
      </Typography>
      {control && (
        <Control
          control={control}
          checks={checks}
          isDrifting={outlook !== null}
          unit={unit}
          decimals={decimals}
        />
      )}
      {[
        ...groupBy(
          checks.flatMap((c) => c.health),
          (h) => h.name,
        ),
      ].map(([name, all]) => {
        const last = all.at(-1)!;
        return (
          <Box key={name} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state={last.isGood ? 'sound' : 'displaced'} />
            <Typography>
              {name}: {all.map((h) => formatValue(h.value, h.decimals)).join(' → ')} {last.unit}
            </Typography>
          </Box>
        );
      })}
      <Box component="ul" sx={{ m: 0, pl: 0, listStyle: 'none' }}>
        {[...checks].reverse().map((c) => (
          <Box component="li" key={c.checkId} sx={{ py: 0.25 }}>
            <Link component={PageLink} href={`/stations/${stationId}/check/${c.checkId}`}>
              {c.at.slice(0, 10)}
            </Link>{' '}
            as found {formatDifference(c.asFound, decimals + 1)}
            {c.asLeft !== null && `, as left ${formatDifference(c.asLeft, decimals + 1)}`} {unit}, agreement
            within ±{formatValue(c.limit, decimals + 1)}
            {c.material && `, on ${c.material}`}: {c.outcome}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** Whether its checks are steady, in words. */
function Control({
  control: { centre, low, high, by, signals },
  checks,
  isDrifting,
  unit,
  decimals,
}: {
  control: NonNullable<CheckHistoryView['control']>;
  checks: readonly PastCheck[];
  isDrifting: boolean;
  unit: string;
  decimals: number;
}) {
  const d = decimals + 1;
  const dayOf = (id: string) => checks.find((c) => c.checkId === id)?.at.slice(0, 10);
  const said = signals.map(({ checkId, kind }) =>
    kind === 'beyond'
      ? `the check of ${dayOf(checkId)} lies beyond them`
      : `nine in a row until ${dayOf(checkId)} lie on one side`,
  );
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
      <StateMark state={signals.length > 0 ? 'displaced' : 'sound'} />
      <Typography>
        {signals.length > 0
          ? `Something changed: ${said.join('; ')}.`
          : isDrifting
            ? 'No check stands out beside the drift.'
            : 'Steady since it was last adjusted. Steady is not the same as right.'}{' '}
        Control limits {formatDifference(low, d)} to {formatDifference(high, d)} about{' '}
        {formatDifference(centre, d)} {unit},{' '}
        {by === 'moving-range'
          ? 'by 2.66 × the mean moving range'
          : 'by 3 u of a check, while there are fewer than eight before'}
        .
      </Typography>
    </Box>
  );
}

/** As found over time, with what counted as agreement then; as left as an open mark. */
function Chart({
  checks,
  control,
  unit,
}: {
  checks: readonly PastCheck[];
  control: CheckHistoryView['control'];
  unit: string;
}) {
  const points = checks.map((c) => ({
    t: Date.parse(c.at),
    found: c.asFound,
    left: c.asLeft ?? undefined,
  }));
  const { limit } = checks.at(-1)!;
  const most =
    1.15 *
    Math.max(
      limit,
      ...points.flatMap((p) => [Math.abs(p.found), Math.abs(p.left ?? 0)]),
      ...(control ? [Math.abs(control.low), Math.abs(control.high)] : []),
    );
  const changed = new Set(control?.signals.map((s) => s.checkId));
  const colour = (name: string) => `var(--mui-palette-${name})`;
  return (
    <Box
      role="img"
      aria-label={`As found over ${checks.length} checks, in ${unit}; the list below says the same`}
      sx={{ height: 220, maxWidth: 760 }}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart data={points} margin={{ top: 8, right: 24, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={colour('divider')} vertical={false} />
          <XAxis
            dataKey="t"
            type="number"
            domain={['dataMin', 'dataMax']}
            ticks={[points[0]!.t, points.at(-1)!.t]}
            tickFormatter={(ms: number) => new Date(ms).toISOString().slice(0, 10)}
            stroke={colour('text-secondary')}
            fontSize={13}
          />
          <YAxis
            domain={[-most, most]}
            ticks={[-limit, 0, limit]}
            tickFormatter={(v: number) => `${formatDifference(v, 2)} ${unit}`}
            stroke={colour('text-secondary')}
            width={96}
            fontSize={13}
          />
          <ReferenceArea y1={-limit} y2={limit} fill={colour('secondary-main')} fillOpacity={0.12} />
          <ReferenceLine y={0} stroke={colour('text-secondary')} />
          {control &&
            [control.low, control.centre, control.high].map((y, i) => (
              <ReferenceLine
                key={i}
                segment={[
                  { x: Date.parse(control.since), y },
                  { x: points.at(-1)!.t, y },
                ]}
                stroke={colour('text-primary')}
                strokeDasharray={i === 1 ? '2 4' : '8 4'}
              />
            ))}
          {points.map((p, i) =>
            changed.has(checks[i]!.checkId) ? (
              <ReferenceDot
                key={p.t}
                x={p.t}
                y={p.found}
                r={9}
                fill="none"
                stroke={colour('error-main')}
                strokeWidth={2}
              />
            ) : null,
          )}
          <Line
            dataKey="found"
            stroke={colour('primary-main')}
            strokeWidth={2}
            dot={{ r: 4, fill: colour('primary-main') }}
            isAnimationActive={false}
          />
          <Line
            dataKey="left"
            stroke="none"
            dot={{ r: 5, fill: 'none', stroke: colour('text-primary'), strokeWidth: 2 }}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </Box>
  );
}
