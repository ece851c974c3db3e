'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useRef, type FormEvent } from 'react';
import type { SessionView } from '@/contract/accountViews';
import { Age } from '../shared/Age';
import { load, send } from '../shared/api';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { NewPasswordFields, newPasswordOf } from './NewPasswordFields';

const path = '/api/v1/account/sessions';

/** One's own password, and where one is signed in. */
export function OwnAccount({ initial }: { initial: SessionView[] }) {
  const person = usePerson();
  const { data, error, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<SessionView[]>(path),
    initialData: initial,
  });
  const form = useRef<HTMLFormElement>(null);
  const change = useMutation({
    mutationFn: (f: FormData) =>
      send('POST', '/api/v1/account/password', { current: f.get('current'), password: newPasswordOf(f) }),
    onSuccess: () => {
      form.current?.reset();
      void refetch();
    },
  });
  const end = useMutation({
    mutationFn: (sessionId: string | null) => send('DELETE', path, sessionId ? { sessionId } : {}),
    onSettled: () => void refetch(),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    change.mutate(new FormData(event.currentTarget));
  };
  return (
    <>
      <Typography variant="h1">Own account</Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        {person.name} · {person.initials} · {person.role}
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gap: 4,
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 380px) minmax(0, 1fr)' },
        }}
      >
        <Box
          component="form"
          ref={form}
          onSubmit={submit}
          sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}
        >
          <Typography variant="h2">Change the password</Typography>
          <input type="text" name="username" autoComplete="username" value={person.name} readOnly hidden />
          <TextField
            name="current"
            label="Present password"
            type="password"
            autoComplete="current-password"
            required
            size="medium"
          />
          <NewPasswordFields />
          <ProblemNote error={change.error} />
          {change.isSuccess && (
            <Typography role="status">
              The password is changed; every other session of yours has ended.
            </Typography>
          )}
          <Button type="submit" variant="contained" disabled={change.isPending} sx={gloved}>
            Change the password
          </Button>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h2" sx={{ mb: 1 }}>
            Where you are signed in
          </Typography>
          <ProblemNote error={error ?? end.error} />
          {data.map((s) => (
            <Box
              key={s.id}
              sx={{
                display: 'flex',
                gap: 2,
                alignItems: 'center',
                flexWrap: 'wrap',
                py: 1,
                borderTop: 1,
                borderColor: 'divider',
              }}
            >
              <Box sx={{ flexGrow: 1, minWidth: 220 }}>
                <b>{s.own ? 'This device' : deviceName(s.device)}</b> · {s.address}
                <Typography variant="body2" color="text.secondary">
                  since <Age at={s.since} />, last used <Age at={s.seen} />
                </Typography>
              </Box>
              {!s.own && (
                <Button sx={gloved} disabled={end.isPending} onClick={() => end.mutate(s.id)}>
                  Sign it out
                </Button>
              )}
            </Box>
          ))}
          {data.length > 1 && (
            <Button sx={{ ...gloved, mt: 1 }} disabled={end.isPending} onClick={() => end.mutate(null)}>
              Sign out everywhere else
            </Button>
          )}
        </Box>
      </Box>
    </>
  );
}

/** A device by what its browser says of itself, in two words. */
function deviceName(agent: string): string {
  const system = /\(([^;)]+)/.exec(agent)?.[1] ?? 'unknown system';
  const browser = /(Firefox|Edg|Chrome|Safari)\//.exec(agent)?.[1] ?? 'a browser';
  return `${browser === 'Edg' ? 'Edge' : browser} on ${system}`;
}
