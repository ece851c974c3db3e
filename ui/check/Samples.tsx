'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { CheckReadingView, CheckView } from '@/contract/checkViews';
import { procedureOf } from '@/core/procedure/procedures';
import { fewestTests } from '@/core/procedure/sampled';
import { formatValue } from '@/core/quantity/format';
import type { Unit } from '@/core/quantity/unit';
import { useDoFieldWrite } from '../outbox/useFieldWrite';
import { newId, Refusal, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { numberOf } from '../shared/numberOf';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { clockText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { besideOf } from './companions';
import { NumberWithUnit } from './NumberWithUnit';

/** What is still to come of each sample: its tests, its masses. The check waits for them, on any device. */
export function Samples({ check, onChanged }: { check: CheckView; onChanged: () => void }) {
  const { zone } = useStationBasics();
  const { against } = procedureOf(check.plan.procedure);
  const samples = check.readings.filter(
    (r) => !r.excludedReason && r.round === check.adjustments.filter((a) => !a.undone && !a.undoes).length,
  );
  if (samples.length === 0) return null;
  const d = check.plan.decimals;
  return (
    <Box component="section" aria-label="Samples" sx={{ display: 'grid', gap: 2, mb: 3 }}>
      <Typography variant="h2">Samples</Typography>
      {samples.map((r, i) => {
        const tests = r.references.filter((t) => !t.excludedReason).length;
        return (
          <Box
            key={r.id}
            component="section"
            aria-label={`Sample ${i + 1}`}
            sx={{ border: 1, borderColor: 'divider', p: 2, display: 'grid', gap: 1.5 }}
          >
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
              <StateMark state={r.compared ? 'sound' : 'missing'} />
              <Typography>
                <b>Sample {i + 1}</b>, drawn {clockText(r.occurredAt, zone)}: the sensor{' '}
                {r.settling.state === 'averaged' ? `averaged ${r.settling.window} s at ` : 'held '}
                <b>
                  {formatValue(r.sensorValue, d)} {check.unit}
                </b>
                .{' '}
                {r.compared
                  ? ''
                  : against === 'instrument'
                    ? `${tests} of ${fewestTests} tests so far.`
                    : 'Its masses are still to come.'}
              </Typography>
            </Box>
            {against === 'instrument' && <Tests check={check} reading={r} onChanged={onChanged} />}
            <Later check={check} reading={r} onChanged={onChanged} />
          </Box>
        );
      })}
    </Box>
  );
}

/** The tests of a sample, each with its way out. */
function Tests({
  check,
  reading,
  onChanged,
}: {
  check: CheckView;
  reading: CheckReadingView;
  onChanged: () => void;
}) {
  const exclude = useMutation({
    mutationFn: (observationId: string) =>
      send(
        'POST',
        `/api/v1/stations/${check.stationId}/checks/${check.id}/readings/${reading.id}/observations/${observationId}/exclude`,
        { reason: 'taken back by the technician' },
      ),
    onSuccess: onChanged,
  });
  if (reading.references.length === 0) return null;
  return (
    <Box component="ul" sx={{ m: 0, pl: 0, listStyle: 'none', display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
      {reading.references.map((t, i) => (
        <Box
          key={t.id}
          component="li"
          sx={{ display: 'flex', gap: 1, alignItems: 'center', border: 1, borderColor: 'divider', pl: 1.5 }}
        >
          <Box
            component="span"
            sx={{
              fontVariantNumeric: 'tabular-nums',
              ...(t.excludedReason && { textDecoration: 'line-through', color: 'text.secondary' }),
            }}
          >
            {formatValue(t.value, check.plan.decimals)} {check.unit}
          </Box>
          {t.excludedReason ? (
            <Box sx={{ pr: 1.5 }}>{t.excludedReason}</Box>
          ) : (
            check.outcome === null && (
              <Button
                sx={gloved}
                disabled={exclude.isPending}
                onClick={() => exclude.mutate(t.id)}
                aria-label={`Take back test ${i + 1}`}
              >
                Take back
              </Button>
            )
          )}
        </Box>
      ))}
      <ProblemNote error={exclude.error} />
    </Box>
  );
}

/** One field for whatever comes next; what was typed waits for a signal. */
function Later({
  check,
  reading,
  onChanged,
}: {
  check: CheckView;
  reading: CheckReadingView;
  onChanged: () => void;
}) {
  const { zone } = useStationBasics();
  const doFieldWrite = useDoFieldWrite();
  const { against } = procedureOf(check.plan.procedure);
  const late = besideOf(check.plan).filter((b) => b.spec.isLate);
  const roles = [
    ...(against === 'instrument' ? [{ role: 'reference', name: 'Test', unit: check.unit }] : []),
    ...late.map(({ key, spec }) => ({ role: key, name: spec.name, unit: spec.unit })),
  ];
  const [texts, setTexts] = useState<Readonly<Record<string, { value: string; unit: Unit }>>>({});
  const [last, setLast] = useState<string | null>(null);
  const add = useMutation({
    mutationFn: ({ role, confirmed }: { role: string; confirmed: boolean }) => {
      const { value, unit } = texts[role]!;
      return doFieldWrite({
        kind: 'checkObservation',
        stationId: check.stationId,
        params: { checkId: check.id, readingId: reading.id },
        where: `${check.stationCode} ${check.channelName}`,
        zone,
        body: {
          observationId: newId(),
          role,
          entered: { value: numberOf(value), unit },
          ...(confirmed && { confirmed }),
          occurredAt: nowText(),
        },
      });
    },
    onSuccess: (_, { role }) => {
      setTexts(({ [role]: gone, ...rest }) => (gone ? rest : rest));
      onChanged();
    },
  });
  if (check.outcome !== null) return null;
  const problem = add.error instanceof Refusal ? add.error.problem : null;
  return (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
      {roles.map(({ role, name, unit }) => {
        const known = role === 'reference' ? undefined : reading.companions.find((c) => c.key === role);
        if (known)
          return (
            <Typography key={role} sx={{ alignSelf: 'center' }}>
              {name}:{' '}
              <b>
                {formatValue(known.value, late.find((b) => b.key === role)!.spec.decimals)} {unit}
              </b>
            </Typography>
          );
        const typed = texts[role] ?? { value: '', unit };
        const set = (change: Partial<typeof typed>) =>
          setTexts((all) => ({ ...all, [role]: { ...typed, ...change } }));
        return (
          <Box
            key={role}
            component="form"
            noValidate
            sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', maxWidth: '100%' }}
            onSubmit={(e) => {
              e.preventDefault();
              setLast(role);
              add.mutate({ role, confirmed: false });
            }}
          >
            <NumberWithUnit
              label={name}
              value={typed.value}
              onValue={(value) => set({ value })}
              unit={typed.unit}
              onUnit={(u) => set({ unit: u })}
              wrong={problem !== null && last === role}
            />
            <Button type="submit" sx={gloved} disabled={add.isPending || typed.value.trim() === ''}>
              Add
            </Button>
          </Box>
        );
      })}
      {add.data?.kept && <Typography role="status">Kept on this device until it can be sent.</Typography>}
      <ProblemNote error={add.error}>
        {last && (problem?.extra as { confirm?: boolean } | undefined)?.confirm && (
          <Button size="small" sx={{ mt: 1 }} onClick={() => add.mutate({ role: last, confirmed: true })}>
            It really is so
          </Button>
        )}
      </ProblemNote>
    </Box>
  );
}
