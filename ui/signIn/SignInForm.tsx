'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type FormEvent } from 'react';
import { send } from '../shared/api';
import { Mark } from '../shared/AppFrame';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

export function SignInForm() {
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    setError(null);
    try {
      await send('POST', '/api/v1/session', { name: form.get('name'), password: form.get('password') });
      const next = new URLSearchParams(window.location.search).get('next');
      window.location.assign(next?.startsWith('/') && !next.startsWith('//') ? next : '/');
    } catch (refused) {
      setError(refused);
      setBusy(false);
    }
  };
  return (
    <Box component="main" sx={{ minHeight: '100vh', display: 'grid', placeItems: 'center', px: 2 }}>
      <Box
        component="form"
        onSubmit={submit}
        method="post"
        sx={{ width: '100%', maxWidth: 380, display: 'grid', gap: 2 }}
      >
        <Box sx={{ bgcolor: 'ground.band', width: 'fit-content', p: 1.5, borderRadius: 1 }}>
          <Mark size={56} />
        </Box>
        <Typography variant="h1">Outer Cairn</Typography>
        <Typography color="text.secondary">Which logged values can be trusted, where, and why.</Typography>
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
      </Box>
    </Box>
  );
}
