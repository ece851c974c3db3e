'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useSearchParams } from 'next/navigation';
import { useEffect, useState, type FormEvent } from 'react';
import { EntryFrame } from '../account/EntryFrame';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { signedIn } from '../taken/signOut';
import { dropTaken } from '../taken/taken';

export function SignInForm({ firstStart }: { firstStart: boolean }) {
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const wasEnded = useSearchParams().get('ended') === 'elsewhere';
  useEffect(() => {
    if (wasEnded) void dropTaken();
  }, [wasEnded]);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    setError(null);
    try {
      await send('POST', '/api/v1/session', { name: form.get('name'), password: form.get('password') });
      signedIn();
      const next = new URLSearchParams(window.location.search).get('next');
      window.location.assign(next?.startsWith('/') && !next.startsWith('//') ? next : '/');
    } catch (refused) {
      setError(refused);
      setBusy(false);
    }
  };
  return (
    <EntryFrame
      title="Outer Cairn"
      says="Which logged values can be trusted, where, and why."
      onSubmit={(e) => void submit(e)}
    >
      {firstStart && (
        <Typography role="status">
          There is no administrator yet. Whoever runs the server finds the address for the first account in
          its output.
        </Typography>
      )}
      {wasEnded && (
        <Typography role="status">
          Your session on this device was ended from elsewhere. What was taken along is no longer on it; what
          waits to be sent is.
        </Typography>
      )}
      <TextField name="name" label="Name" autoComplete="username" required autoFocus size="medium" />
      <TextField
        name="password"
        label="Password"
        type="password"
        autoComplete="current-password"
        required
        size="medium"
      />
      <ProblemNote error={error} />
      <Button type="submit" variant="contained" disabled={busy} sx={gloved}>
        {busy ? 'Signing in …' : 'Sign in'}
      </Button>
    </EntryFrame>
  );
}
