'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { OperationView } from '@/contract/views';
import { load, newId, Refusal, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import type { VerifyProps } from './verifyProps';

const groups = [
  [
    'gross',
    'Gross range',
    [
      ['low', 'from'],
      ['high', 'to'],
    ],
    'what the sensor can give at all: outside fails',
  ],
  [
    'user',
    'Range believed here',
    [
      ['low', 'from'],
      ['high', 'to'],
    ],
    'outside is suspect',
  ],
  [
    'spike',
    'Spike',
    [
      ['suspect', 'suspect above'],
      ['fail', 'fails above'],
    ],
    'away from the middle of its neighbours',
  ],
  ['rate', 'Rate of change', [['perHour', 'per hour']], 'faster is suspect'],
  [
    'flat',
    'Flat line',
    [
      ['eps', 'moves less than'],
      ['suspectHours', 'suspect after, h'],
      ['failHours', 'fails after, h'],
    ],
    'standing still',
  ],
] as const;

/** What the channel's quality tests go by; an emptied test is switched off. */
export function ThresholdForm({ base, verify, onChanged }: VerifyProps) {
  const mayMark = useMay('mark');
  // What is typed lies over what is saved, so that nobody else's saving takes it away.
  const [typed, setTyped] = useState<Record<string, string>>({});
  const textOf = (group: (typeof groups)[number][0], field: string) => {
    const set = verify.thresholds[group] as Record<string, number> | null;
    return typed[`${group}.${field}`] ?? (set ? String(set[field]) : '');
  };
  const save = useMutation({
    mutationFn: () => {
      const thresholds = Object.fromEntries(
        groups.map(([group, , fields]) => {
          const values = fields.map(([field]) => [field, textOf(group, field).trim()] as const);
          return [
            group,
            values.every(([, v]) => v === '')
              ? null
              : Object.fromEntries(
                  values.map(([f, v]) => [
                    f,
                    v === '' ? Number.NaN : Number(v.replace(',', '.').replace('−', '-')),
                  ]),
                ),
          ];
        }),
      );
      return send('PUT', `${base}/thresholds`, { settingId: newId(), thresholds });
    },
    onSuccess: async () => {
      await onChanged();
      setTyped({});
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
        Tests after the QARTOD manuals.{' '}
        {verify.thresholdsAreDefault
          ? 'These are the starting values of the quantity: narrow them for this place.'
          : 'Set for this channel.'}{' '}
        All in {verify.unit}.
      </Typography>
      {groups.map(([group, name, fields, what]) => (
        <Box key={group} sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
          <Box sx={{ width: 170 }}>
            <b>{name}</b>
          </Box>
          {fields.map(([field, label]) => (
            <TextField
              key={field}
              label={`${name}: ${label}`}
              value={textOf(group, field)}
              error={wrong === group || wrong === `thresholds.${group}.${field}`}
              disabled={!mayMark}
              onChange={(e) => setTyped({ ...typed, [`${group}.${field}`]: e.target.value })}
              sx={{ width: 190 }}
            />
          ))}
          <Box sx={{ color: 'text.secondary' }}>{what}</Box>
        </Box>
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
            {operation && (ended ? `Tested: ${operation.message}` : 'Testing …')}
            {save.isSuccess && !save.isPending && ' Saved.'}
          </Box>
        </Box>
      )}
      <ProblemNote error={save.error ?? run.error} />
    </Box>
  );
}
