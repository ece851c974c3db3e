'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddReceiver, ReceiverView } from '@/contract/watch';
import { formatAge } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { fieldGrid, gloved, openForm } from '../shared/theme';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { WatchHead } from './WatchHead';

const waits = [0, 300, 600, 900, 1800, 3600, 14_400];
const waitText = (s: number) => (s === 0 ? 'at once' : `when nobody acknowledges for ${formatAge(s)}`);
const leastText = { 1: 'any alarm', 2: 'far too low or high, and silences' } as const;

/** Who is told of alarms, in which order, and how the last message fared. */
export function Receivers({ initial }: { initial: readonly ReceiverView[] }) {
  const { data, error, changed } = useView<readonly ReceiverView[]>(
    '/api/v1/watch/receivers',
    initial,
    15_000,
  );
  const may = useMay('administer');
  const [isAdding, setAdding] = useState(false);
  const [secret, setSecret] = useState<string | null>(null);
  return (
    <>
      <WatchHead title="Who is told" here="/watch/receivers">
        {may && (
          <Button variant="contained" sx={gloved} onClick={() => setAdding(!isAdding)}>
            {isAdding ? 'Close the form' : 'Add a receiver'}
          </Button>
        )}
      </WatchHead>
      <ProblemNote error={error} />
      {secret && (
        <Alert
          severity="info"
          variant="outlined"
          onClose={() => setSecret(null)}
          sx={{ mb: 2, color: 'text.primary', overflowWrap: 'anywhere' }}
        >
          What is posted is signed with this secret, shown this once: <code>{secret}</code>
        </Alert>
      )}
      {isAdding && (
        <AddForm
          onAdded={async (made) => {
            setAdding(false);
            setSecret(made);
            await changed();
          }}
        />
      )}
      {data.length === 0 && <Typography>Nobody is told: alarms stand on the screen only.</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {data.map((r) => (
          <Row key={r.id} receiver={r} may={may} onChanged={changed} />
        ))}
      </Box>
    </>
  );
}

function Row({
  receiver: r,
  may,
  onChanged,
}: {
  receiver: ReceiverView;
  may: boolean;
  onChanged: () => Promise<void>;
}) {
  const retire = useMutation({
    mutationFn: () => send('POST', `/api/v1/watch/receivers/${r.id}/retire`),
    onSuccess: onChanged,
  });
  return (
    <Box
      component="li"
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        py: 1.25,
        display: 'flex',
        gap: 2,
        flexWrap: 'wrap',
        alignItems: 'center',
      }}
    >
      <Box sx={{ flex: '1 1 280px', minWidth: 0 }}>
        <Typography sx={{ fontWeight: 600 }}>{r.name}</Typography>
        <Typography variant="body2" sx={{ overflowWrap: 'anywhere' }}>
          {r.kind === 'mail' ? 'mail to' : 'posted to'} {r.address}
        </Typography>
        <Typography variant="body2">
          {leastText[r.least]}, {waitText(r.afterSeconds)}
        </Typography>
        <Typography variant="caption" color="text.secondary">
          {r.last
            ? `last message ${timeText(r.last.at)}: ${r.last.state}${r.last.note ? `, ${r.last.note}` : ''}`
            : 'no message yet'}{' '}
          · added by {r.by}
        </Typography>
      </Box>
      {may && (
        <Button sx={gloved} disabled={retire.isPending} onClick={() => retire.mutate()}>
          Take off the list
        </Button>
      )}
      <ProblemNote error={retire.error} />
    </Box>
  );
}

function AddForm({ onAdded }: { onAdded: (secret: string | null) => Promise<void> }) {
  const [kind, setKind] = useState<AddReceiver['kind']>('mail');
  const [name, setName] = useState('');
  const [address, setAddress] = useState('');
  const [least, setLeast] = useState<AddReceiver['least']>(1);
  const [afterSeconds, setAfter] = useState(0);
  const add = useMutation({
    mutationFn: () =>
      send<{ secret: string | null }>('POST', '/api/v1/watch/receivers', {
        receiverId: newId(),
        kind,
        name,
        address,
        least,
        afterSeconds,
      } satisfies AddReceiver),
    onSuccess: ({ secret }) => onAdded(secret),
  });
  return (
    <Box
      component="form"
      aria-label="Add a receiver"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
      sx={openForm}
    >
      <Box sx={fieldGrid(220)}>
        <TextField
          select
          label="How"
          value={kind}
          onChange={(e) => setKind(e.target.value as AddReceiver['kind'])}
        >
          <MenuItem value="mail">mail</MenuItem>
          <MenuItem value="webhook">posted to an address of the web</MenuItem>
        </TextField>
        <TextField label="Name" value={name} onChange={(e) => setName(e.target.value)} />
        <TextField
          label={kind === 'mail' ? 'Mail address' : 'Address, https://…'}
          value={address}
          onChange={(e) => setAddress(e.target.value)}
        />
        <TextField
          select
          label="Of what"
          value={least}
          onChange={(e) => setLeast(Number(e.target.value) as AddReceiver['least'])}
        >
          <MenuItem value={1}>{leastText[1]}</MenuItem>
          <MenuItem value={2}>{leastText[2]}</MenuItem>
        </TextField>
        <TextField
          select
          label="When"
          value={afterSeconds}
          onChange={(e) => setAfter(Number(e.target.value))}
        >
          {waits.map((s) => (
            <MenuItem key={s} value={s}>
              {waitText(s)}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Button
        type="submit"
        variant="contained"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={!name.trim() || !address.trim() || add.isPending}
      >
        Add
      </Button>
      <ProblemNote error={add.error} />
    </Box>
  );
}
