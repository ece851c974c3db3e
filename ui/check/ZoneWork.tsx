'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQueries, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { CaptureReading, OpenCheck } from '@/contract/requests';
import type { CheckStartView, CheckView, InstrumentView } from '@/contract/checkViews';
import { referenceRests } from '@/core/check/referenceRest';
import { atRest } from '@/core/check/settling';
import { procedureOf } from '@/core/procedure/procedures';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { load, newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { useKeys } from '../shared/useKeys';
import { useHeld } from '../visit/held';
import { doubtOf } from './inHand';
import { referenceRestOf } from './referenceRestOf';
import { settlingOf } from './settlingOf';
import { useLiveReadings } from './useLiveReadings';
import { useSendReading } from './useSendReading';
import { standing } from './verdictWords';
import { UsualField } from './UsualField';
import { ZoneChannel } from './ZoneChannel';
import { movedOf, takenOf, zoneProcedure, zoneReading, type ZoneRow } from './zoneReading';

type Channel = CheckStartView['channels'][number];

interface Props {
  start: CheckStartView;
  zone: string;
  channels: readonly Channel[];
  instruments: ReadonlyMap<QuantityCode, InstrumentView>;
  /** The zone that comes after it; null for the last. */
  next: string | null;
  onNext: (zone: string) => void;
  onChanged: () => void;
}

/** The work in one zone: begin all that hangs there, read them together, close what agrees, go on. */
export function ZoneWork(props: Props) {
  const { channels } = props;
  const open = channels.flatMap((c) => c.openCheckId ?? []);
  return (
    <>
      {open.length < channels.length && <BeginZone {...props} />}
      {open.length > 0 && <ZoneReadings key={open.join()} {...props} checkIds={open} />}
    </>
  );
}

function BeginZone({ start, zone, channels, instruments, onChanged }: Props) {
  const [repeats, setRepeats] = useState('');
  const [watch, setWatch] = useState('');
  const client = useQueryClient();
  const closed = channels.filter((c) => c.openCheckId === null);
  const isDoubtful = closed.some((c) => doubtOf(instruments.get(c.quantity)!, c.quantity) !== null);
  const begin = useMutation({
    // One after the other: what was begun before one is refused goes on.
    mutationFn: async () => {
      for (const c of closed)
        await send('POST', `/api/v1/stations/${start.stationId}/checks`, {
          checkId: newId(),
          channelId: c.id,
          procedure: zoneProcedure(c.quantity)!,
          instrumentId: instruments.get(c.quantity)!.id,
          standardIds: [],
          zoneName: zone,
          repeats: Number(repeats || usualRepeats(closed)),
          school: 'gum',
          settleWindow: Number(watch || c.settleWindow),
          occurredAt: nowText(),
        } satisfies OpenCheck);
    },
    onSettled: () => {
      onChanged();
      void client.invalidateQueries({ queryKey: ['clock-strip'] });
    },
  });
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        begin.mutate();
      }}
      sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start', mb: 2 }}
    >
      <UsualField
        label="Repeats"
        value={repeats}
        usual={String(usualRepeats(closed))}
        onChange={setRepeats}
      />
      <UsualField label="Watch for, s" value={watch} usual="as usual" onChange={setWatch} />
      <Button type="submit" variant="contained" sx={gloved} disabled={isDoubtful || begin.isPending}>
        {begin.isPending
          ? 'Beginning …'
          : `Begin in ${zone}: ${closed.map((c) => c.name.toLowerCase()).join(', ')}`}
      </Button>
      <ProblemNote error={begin.error} />
    </Box>
  );
}

const isStill = (row: ZoneRow): boolean => atRest(row.settling) && referenceRests(row.reference);

const usualRepeats = (channels: readonly Channel[]): number =>
  Math.max(1, ...channels.map((c) => procedureOf(zoneProcedure(c.quantity)!).repeats));

function ZoneReadings({
  start,
  zone,
  next,
  onNext,
  onChanged,
  checkIds,
}: Props & { checkIds: readonly string[] }) {
  const { stationId } = start;
  const client = useQueryClient();
  const path = (id: string) => `/api/v1/stations/${stationId}/checks/${id}`;
  const asked = useQueries({
    queries: checkIds.map((id) => ({ queryKey: [path(id)], queryFn: () => load<CheckView>(path(id)) })),
  });
  const { watches, restart } = useLiveReadings(stationId, checkIds, true);
  const [typed, setTyped] = useState<Readonly<Record<string, { text: string; unit: Unit; heldId?: string }>>>(
    {},
  );
  const [problems, setProblems] = useState<
    Readonly<Record<string, { error: Error; reading: CaptureReading }>>
  >({});
  const { held, letGo } = useHeld(stationId);
  const sendReading = useSendReading();
  const rows = asked.flatMap(({ data: check }, i): ZoneRow[] => {
    if (!check) return [];
    const watch = watches[i]!;
    const { text, unit } = typed[check.id] ?? { text: '', unit: check.unit };
    return [
      {
        check,
        watch,
        settling: settlingOf(check, watch.watched, null),
        // What is typed off its display says nothing of how it moved.
        reference: referenceRestOf(check, text === '' ? watch : { ...watch, reference: [] }, null, false),
        typed: text,
        unit,
      },
    ];
  });
  const isAllRead = rows.length > 0 && rows.every((r) => takenOf(r.check) >= r.check.plan.repeats);
  const wants = (row: ZoneRow) => isStill(row) && (isAllRead || takenOf(row.check) < row.check.plan.repeats);
  const readings = () =>
    rows.flatMap((row) => {
      // A reading that caught its sensor moving decides nothing: it is left for the next one.
      const reading = wants(row)
        ? zoneReading(row, rows, { readingId: newId(), occurredAt: nowText() })
        : null;
      return reading ? [{ row, reading }] : [];
    });
  const take = useMutation({
    mutationFn: async (which: ReturnType<typeof readings>) => {
      const refused: Record<string, { error: Error; reading: CaptureReading }> = {};
      for (const { row, reading } of which) {
        const { id } = row.check;
        try {
          await sendReading(row.check, reading);
          const { heldId } = typed[id] ?? {};
          if (heldId) letGo(heldId);
          setTyped((all) => ({ ...all, [id]: { text: '', unit: row.unit } }));
        } catch (error) {
          refused[id] = { error: error as Error, reading };
        }
      }
      const sent = new Set(which.map(({ row }) => row.check.id));
      setProblems((all) => ({
        ...Object.fromEntries(Object.entries(all).filter(([id]) => !sent.has(id))),
        ...refused,
      }));
    },
    onSettled: () => Promise.all(checkIds.map((id) => client.invalidateQueries({ queryKey: [path(id)] }))),
  });
  /** The reading that was asked about, once more and stood by: what was lent to it is in it. */
  const confirm = (row: ZoneRow) => {
    const refused = problems[row.check.id];
    if (!refused) return;
    const again = { ...refused.reading, readingId: newId(), occurredAt: nowText(), confirmed: true };
    take.mutate([{ row, reading: again }]);
  };
  const takeBack = useMutation({
    mutationFn: async ({ id, readings: all }: CheckView) => {
      for (const r of movedOf({ readings: all }))
        await send('POST', `${path(id)}/readings/${r.id}/exclude`, { reason: 'the sensor still moved' });
    },
    onSettled: (_, __, { id }) => client.invalidateQueries({ queryKey: [path(id)] }),
  });
  const agreeing = rows.filter(
    ({ check: c }) =>
      (c.verdict?.kind === 'agree' && standing(c) === 0) || c.convergence?.kind === 'converged',
  );
  const close = useMutation({
    mutationFn: async () => {
      for (const { check } of agreeing)
        await send('POST', `${path(check.id)}/close`, { abandon: false, occurredAt: nowText() });
    },
    onSuccess: () => next !== null && onNext(next),
    onSettled: () => {
      onChanged();
      void client.invalidateQueries({ queryKey: ['clock-strip'] });
    },
  });
  const ready = readings().length;
  const nth = Math.min(...rows.map((r) => takenOf(r.check))) + 1;
  const repeats = Math.max(...rows.map((r) => r.check.plan.repeats));
  const atRestAll = rows.length > 0 && rows.every(isStill);
  useKeys({
    c: () => {
      if (ready > 0 && !take.isPending) take.mutate(readings());
    },
    n: () => {
      if (isAllRead && !close.isPending) close.mutate();
    },
  });
  if (rows.length === 0) return <ProblemNote error={asked.find((a) => a.error)?.error ?? null} />;
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Readings in ${zone}`}
      onSubmit={(e) => {
        e.preventDefault();
        if (ready > 0) take.mutate(readings());
      }}
      sx={{
        border: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        p: 2,
        mb: 3,
        display: 'grid',
        gap: 2,
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h3">{zone}</Typography>
        <Box role="status" aria-label="Settling" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state={atRestAll ? 'sound' : 'displaced'} />
          {atRestAll ? 'All settled' : 'Stand back: what still moves is not read'}
        </Box>
        <Button sx={gloved} onClick={restart}>
          Watch anew
        </Button>
      </Box>
      {rows.map((row) => (
        <ZoneChannel
          key={row.check.id}
          row={row}
          rows={rows}
          held={held}
          problem={problems[row.check.id]?.error ?? null}
          onTyped={(text, unit, heldId) =>
            setTyped((all) => ({ ...all, [row.check.id]: { text, unit, ...(heldId && { heldId }) } }))
          }
          onConfirm={() => confirm(row)}
          onTakeBack={() => takeBack.mutate(row.check)}
        />
      ))}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Button
          type="submit"
          variant={atRestAll && !isAllRead ? 'contained' : 'outlined'}
          sx={{ ...gloved, minHeight: 64 }}
          disabled={ready === 0 || take.isPending}
        >
          {take.isPending
            ? 'Reading …'
            : isAllRead
              ? `One more reading in ${zone}`
              : `Take reading ${nth} of ${repeats} in ${zone}`}
        </Button>
        {isAllRead && (agreeing.length > 0 || next !== null) && (
          <Button
            variant="contained"
            sx={{ ...gloved, minHeight: 64 }}
            disabled={close.isPending}
            onClick={() => close.mutate()}
          >
            {[
              agreeing.length > 0 &&
                `Close ${agreeing.length === rows.length ? 'all' : agreeing.length} that agree`,
              next !== null && `next: ${next}`,
            ]
              .filter(Boolean)
              .join(', ')}
          </Button>
        )}
      </Box>
      <ProblemNote error={takeBack.error ?? close.error} />
    </Box>
  );
}
