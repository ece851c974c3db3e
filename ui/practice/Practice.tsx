'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import {
  practiceFaultNames,
  practiceFaults,
  practiceMoveNames,
  practiceMoves,
  practicePower,
  practicePowerNames,
  type PracticeView,
  type Practise,
} from '@/contract/practice';
import { habitNames, habits, type Habit } from '@/core/check/habits';
import { formatDifference } from '@/core/quantity/format';
import { load, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';

const path = '/api/v1/practice';

/** The practice stand: what is made to go wrong, and what a meter would show, for whoever teaches. */
export function Practice({ initial }: { initial: PracticeView }) {
  const { data, error, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<PracticeView>(path),
    initialData: initial,
    refetchInterval: 3000,
  });
  const turn = useMutation({
    mutationFn: (what: Practise) => send('POST', path, what),
    onSettled: () => refetch(),
  });
  return (
    <>
      <Typography variant="h1">Practice</Typography>
      <Typography sx={{ mb: 1 }}>
        Makes something go wrong on a serial line of the stand, for others to find, carries its launched
        loggers about, puts sensors into buffers, ice and gases to be checked there, has handhelds read badly,
        and takes the power of forgetful ones away. Nothing of it is written in the field book, and nothing
        real is touched. The last columns are what a meter and a look would show at the sensor.
      </Typography>
      <ProblemNote error={error ?? turn.error} />
      {data.lines.map((line) => (
        <Box component="section" key={line.logger} aria-label={line.station} sx={{ mt: 2 }}>
          <Typography variant="h2">
            {line.station} · {line.logger}
          </Typography>
          {line.sensors.map((s) => (
            <Box
              key={s.serial}
              sx={{
                display: 'grid',
                gridTemplateColumns: { xs: '1fr', sm: '1.2fr 1.1fr 1.1fr', md: '1.2fr 1.1fr 1.1fr 1.4fr' },
                columnGap: 2,
                rowGap: 0.5,
                alignItems: 'center',
                borderTop: 1,
                borderColor: 'divider',
                py: 0.75,
              }}
            >
              <Typography>
                <b>{s.serial}</b> · ID {s.busId}
                {s.wrong.length > 0 && (
                  <Box component="span" sx={{ color: 'error.main' }}>
                    {' '}
                    · {s.wrong.join(', ')}
                  </Box>
                )}
              </Typography>
              <Choose
                label={`Make ${s.serial}`}
                of={practiceFaults}
                names={practiceFaultNames}
                disabled={turn.isPending}
                onChoose={(fault) => turn.mutate({ serial: s.serial, fault })}
              />
              {s.media.length > 0 && (
                <TextField
                  select
                  fullWidth
                  label={`${s.serial} is`}
                  value={s.medium ?? ''}
                  disabled={turn.isPending}
                  onChange={(e) =>
                    turn.mutate({
                      serial: s.serial,
                      fault: 'into',
                      ...(e.target.value && { medium: e.target.value }),
                    })
                  }
                  slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
                >
                  <MenuItem value="">where it measures</MenuItem>
                  {s.media.map((m) => (
                    <MenuItem key={m} value={m}>
                      in {m}
                    </MenuItem>
                  ))}
                </TextField>
              )}
              <Typography variant="body2">
                {s.supply} V supply · {formatDifference(s.idle, 2)} V pair at rest
                {s.light && ` · light ${s.light}`}
                {s.label && ` · label of its part ${s.label.join(', ')}`}
              </Typography>
            </Box>
          ))}
        </Box>
      ))}
      <Box component="section" aria-label="Handhelds" sx={{ mt: 2 }}>
        <Typography variant="h2">Handhelds</Typography>
        {data.handhelds.map((h) => (
          <OneHandheld
            key={h.serial}
            {...h}
            disabled={turn.isPending}
            onChoose={(fault) => turn.mutate({ serial: h.serial, fault })}
          />
        ))}
      </Box>
      {data.forgetful.map((l) => (
        <OneLogger
          key={l.logger}
          {...l}
          says={l.loses ? 'It holds something that is not stored.' : 'It would come up as it is.'}
        >
          <Choose
            label={`Have ${l.logger}`}
            of={practicePower}
            names={practicePowerNames}
            disabled={turn.isPending}
            onChoose={(fault) => turn.mutate({ serial: l.logger, fault })}
          />
        </OneLogger>
      ))}
      {data.launched.map((l) => (
        <OneLogger
          key={l.logger}
          {...l}
          says={
            l.where === null ? 'It hangs where it measures.' : `It is elsewhere: ${l.where.toLowerCase()}.`
          }
        >
          <Choose
            label={`Have ${l.logger}`}
            of={practiceMoves}
            names={practiceMoveNames}
            disabled={turn.isPending}
            onChoose={(fault) => turn.mutate({ serial: l.logger, fault })}
          />
        </OneLogger>
      ))}
    </>
  );
}

/** A logger, how it stands, and what can be done with it. */
function OneLogger({
  station,
  logger,
  says,
  children,
}: {
  station: string;
  logger: string;
  says: string;
  children: ReactNode;
}) {
  return (
    <Box component="section" aria-label={station} sx={{ mt: 2 }}>
      <Typography variant="h2">
        {station} · {logger}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', py: 0.75 }}>
        <Typography>{says}</Typography>
        <Box sx={{ width: 320 }}>{children}</Box>
      </Box>
    </Box>
  );
}

/** Something to do with one of the stand's devices; what was chosen is done at once, and nothing stays chosen. */
function Choose<T extends Exclude<Practise['fault'], 'into'>>({
  label,
  of,
  names,
  disabled,
  onChoose,
}: {
  label: string;
  of: Readonly<Record<T, string>>;
  names: readonly T[];
  disabled: boolean;
  onChoose: (what: T) => void;
}) {
  return (
    <TextField
      select
      fullWidth
      label={label}
      value=""
      disabled={disabled}
      onChange={(e) => onChoose(e.target.value as T)}
    >
      {names.map((n) => (
        <MenuItem key={n} value={n}>
          {of[n]}
        </MenuItem>
      ))}
    </TextField>
  );
}

function OneHandheld({
  serial,
  habit,
  disabled,
  onChoose,
}: PracticeView['handhelds'][number] & {
  disabled: boolean;
  onChoose: (fault: Habit | 'as it should be') => void;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', py: 0.75 }}>
      <Typography sx={{ minWidth: 90 }}>
        <b>{serial}</b>
      </Typography>
      <TextField
        select
        label={`${serial} is read`}
        value={habit ?? 'as it should be'}
        disabled={disabled}
        onChange={(e) => onChoose(e.target.value as Habit | 'as it should be')}
        sx={{ minWidth: 300 }}
      >
        <MenuItem value="as it should be">as it should be</MenuItem>
        {habitNames.map((name) => (
          <MenuItem key={name} value={name}>
            {habits[name]}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
