'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { LearnedThresholdsView } from '@/contract/recordViews';
import type { OperationView } from '@/contract/views';
import type { Months } from '@/core/quality/qualityTest';
import { setTests, type QualityThresholds, type SetTest } from '@/core/quality/tests';
import { load, newId, Refusal, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { limitsTyped, TestFields, type TextOf } from './TestFields';
import { useThresholdPreview } from './useThresholdPreview';
import type { VerifyProps } from './verifyProps';

const rounded = (value: number | null, decimals: number): string =>
  value === null ? '' : value.toFixed(decimals);

/** What the channel's quality tests go by; an emptied test is switched off. */
export function ThresholdForm({ base, verify, window: shown, onThresholds, onChanged }: VerifyProps) {
  const mayMark = useMay('mark');
  // What is typed lies over what is saved, so that nobody else's saving takes it away.
  const [typed, setTyped] = useState<Record<string, string>>({});
  const textOf: TextOf = (test, field, month) => {
    const limits = verify.thresholds[test] as Record<string, number | Months> | null;
    const set = limits?.[field];
    const value = month === undefined ? (set as number | undefined) : (set as Months | undefined)?.[month];
    return typed[`${test}.${field}.${month ?? ''}`] ?? String(value ?? '');
  };
  const type = (test: SetTest, field: string, month: number | undefined, text: string) =>
    setTyped((before) => ({ ...before, [`${test}.${field}.${month ?? ''}`]: text }));
  const edited = Object.fromEntries(
    setTests.map((test) => [test, limitsTyped(test, textOf)]),
  ) as unknown as QualityThresholds;
  const counts = useThresholdPreview(base, shown, edited);
  const sendable = JSON.stringify(edited);
  useEffect(() => onThresholds(JSON.parse(sendable) as QualityThresholds), [sendable, onThresholds]);
  const save = useMutation({
    mutationFn: () =>
      send('PUT', `${base}/thresholds`, {
        settingId: newId(),
        thresholds: edited,
      }),
    onSuccess: async () => {
      await onChanged();
      setTyped({});
    },
  });
  const learn = useMutation({
    mutationFn: (test: SetTest) => load<LearnedThresholdsView>(`${base}/thresholds/learned?test=${test}`),
    onSuccess: ({ test, limits }) => {
      for (const [field, value] of Object.entries(limits))
        if (Array.isArray(value)) value.forEach((v, m) => type(test, field, m, rounded(v, verify.decimals)));
        else type(test, field, undefined, rounded(value, verify.decimals));
    },
  });
  const [operationId, setOperationId] = useState<string | null>(null);
  const run = useMutation({
    mutationFn: () => send<OperationView>('POST', `${base}/quality`, { operationId: newId() }),
    onSuccess: (o) => setOperationId(o.id),
  });
  const { data: operation } = useQuery({
    queryKey: ['operation', operationId],
    enabled: operationId !== null,
    queryFn: () => load<OperationView>(`/api/v1/operations/${operationId}`),
    refetchInterval: (q) => (q.state.data && q.state.data.state !== 'running' ? false : 400),
  });
  const ended = operation && operation.state !== 'running' ? operation.state : null;
  useEffect(() => {
    if (ended) void onChanged();
    // The parent's callback changes with every render; only the end of the run matters.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended, operationId]);
  const wrong = save.error instanceof Refusal ? save.error.problem.field : undefined;
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{ display: 'grid', gap: 1.5 }}
    >
      <Typography>
        Tests after the QARTOD manuals, drawn over the trace; beside each, what it would flag of the{' '}
        {counts ? `${counts.readings} ${counts.whole ? '' : 'first '}values of this window` : 'window'}.{' '}
        {verify.thresholdsAreDefault
          ? 'These are the starting values of the quantity: narrow them for this place.'
          : 'Set for this channel.'}{' '}
      </Typography>
      {setTests.map((test) => (
        <TestFields
          key={test}
          test={test}
          unit={verify.unit}
          disabled={!mayMark}
          textOf={textOf}
          onType={(field, month, text) => type(test, field, month, text)}
          onLearn={() => learn.mutate(test)}
          found={counts?.counts[test] ?? null}
          wrong={(field) => wrong === test || (wrong?.startsWith(`thresholds.${test}.${field}`) ?? false)}
        />
      ))}
      {mayMark && (
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
          <Button type="submit" disabled={save.isPending}>
            Save the thresholds
          </Button>
          <Button
            variant="contained"
            disabled={run.isPending || (operationId !== null && !ended)}
            onClick={() => run.mutate()}
          >
            Test the record again
          </Button>
          <Box role="status">
            {learn.isSuccess && `Learned from ${learn.data.days} days: look, then save. `}
            {operation && (ended ? `Tested: ${operation.message}` : 'Testing …')}
            {save.isSuccess && !save.isPending && ' Saved.'}
          </Box>
        </Box>
      )}
      <ProblemNote error={save.error ?? learn.error ?? run.error} />
    </Box>
  );
}
