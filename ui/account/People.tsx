'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useRef, useState, type FormEvent } from 'react';
import type { PersonRowView } from '@/contract/accountViews';
import { roles, type Role } from '@/contract/permission';
import { Age } from '../shared/Age';
import { load, newId, send } from '../shared/api';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';

const path = '/api/v1/people';

interface OnceLink {
  readonly name: string;
  readonly link: string;
}

const stateText = {
  active: { mark: 'sound', word: 'may sign in' },
  invited: { mark: 'missing', word: 'invited, no password chosen yet' },
  disabled: { mark: 'displaced', word: 'disabled' },
} as const;

/** People and their accounts: invited, given a role, disabled, signed out everywhere. */
export function People({ initial, practice }: { initial: PersonRowView[]; practice: boolean }) {
  const { data, error, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<PersonRowView[]>(path),
    initialData: initial,
  });
  const [link, setLink] = useState<OnceLink | null>(null);
  return (
    <>
      <Typography variant="h1">Administration</Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        {data.filter((p) => p.state === 'active').length} people may sign in
        {practice && (
          <>
            {' '}
            ·{' '}
            <Link component={PageLink} href="/practice">
              Practice: make something go wrong on the stand
            </Link>
          </>
        )}
      </Typography>
      <Typography variant="h2" sx={{ mb: 1 }}>
        People
      </Typography>
      <ProblemNote error={error} />
      {link && <LinkOnce link={link} onClose={() => setLink(null)} />}
      {data.map((p) => (
        <PersonLine key={p.id} person={p} onChanged={() => void refetch()} onLink={setLink} />
      ))}
      <Invite
        onInvited={(l) => {
          setLink(l);
          void refetch();
        }}
      />
    </>
  );
}

/** A link is shown once; whoever has it chooses the password. */
function LinkOnce({ link, onClose }: { link: OnceLink; onClose: () => void }) {
  const whole = `${window.location.origin}${link.link}`;
  const [copied, setCopied] = useState(false);
  return (
    <Box
      role="status"
      sx={{ border: 2, borderColor: 'primary.main', p: 2, mb: 2, bgcolor: 'ground.skyWash' }}
    >
      <Typography sx={{ fontWeight: 600 }}>A link for {link.name}, shown only now</Typography>
      <Typography variant="body2" sx={{ mb: 1 }}>
        Give it to nobody else: whoever opens it chooses the password. It works once, within two days.
      </Typography>
      <TextField
        label={`Link for ${link.name}`}
        value={whole}
        fullWidth
        slotProps={{
          htmlInput: { readOnly: true, onFocus: (e: { target: HTMLInputElement }) => e.target.select() },
        }}
      />
      <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
        <Button
          variant="contained"
          sx={gloved}
          onClick={() =>
            void navigator.clipboard.writeText(whole).then(
              () => setCopied(true),
              () => {},
            )
          }
        >
          {copied ? 'Copied' : 'Copy the link'}
        </Button>
        <Button sx={gloved} onClick={onClose}>
          It is passed on
        </Button>
      </Box>
    </Box>
  );
}

function PersonLine({
  person: p,
  onChanged,
  onLink,
}: {
  person: PersonRowView;
  onChanged: () => void;
  onLink: (link: OnceLink) => void;
}) {
  const own = usePerson().id === p.id;
  const base = `${path}/${p.id}`;
  const act = useMutation({
    mutationFn: async (what: { role?: Role; disabled?: boolean } | 'link' | 'sign-out') => {
      if (what === 'link')
        onLink({ name: p.name, ...(await send<{ link: string }>('POST', `${base}/link`)) });
      else if (what === 'sign-out') await send('POST', `${base}/sign-out`);
      else
        await send('PUT', base, {
          role: what.role ?? p.role,
          disabled: what.disabled ?? p.state === 'disabled',
        });
    },
    onSettled: onChanged,
  });
  const { mark, word } = stateText[p.state];
  return (
    <Box component="section" aria-label={p.name} sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <StateMark state={mark} />
        <Box sx={{ minWidth: 200, flexGrow: 1 }}>
          <b>{p.name}</b> · {p.initials} {own && '(you)'}
          <Typography variant="body2" color="text.secondary">
            {word}
            {p.lastSignIn ? (
              <>
                , signed in <Age at={p.lastSignIn} />
              </>
            ) : (
              ', never signed in'
            )}
          </Typography>
        </Box>
        <TextField
          select
          label={`Role of ${p.name}`}
          value={p.role}
          sx={{ width: 170 }}
          disabled={act.isPending}
          onChange={(e) => act.mutate({ role: e.target.value as Role })}
        >
          {roles.map((r) => (
            <MenuItem key={r} value={r}>
              {r}
            </MenuItem>
          ))}
        </TextField>
        {p.state !== 'disabled' && (
          <>
            <Button sx={gloved} disabled={act.isPending} onClick={() => act.mutate('link')}>
              New password
            </Button>
            <Button sx={gloved} disabled={act.isPending} onClick={() => act.mutate('sign-out')}>
              Sign out everywhere
            </Button>
          </>
        )}
        <Button
          sx={gloved}
          disabled={act.isPending}
          color={p.state === 'disabled' ? 'primary' : 'error'}
          onClick={() => act.mutate({ disabled: p.state !== 'disabled' })}
        >
          {p.state === 'disabled' ? 'Enable' : 'Disable'}
        </Button>
      </Box>
      <ProblemNote error={act.error} />
    </Box>
  );
}

function Invite({ onInvited }: { onInvited: (link: OnceLink) => void }) {
  const form = useRef<HTMLFormElement>(null);
  const invite = useMutation({
    mutationFn: async (f: FormData) => {
      const name = String(f.get('name')).trim().toLowerCase();
      const { link } = await send<{ link: string }>('POST', path, {
        personId: newId(),
        name,
        initials: f.get('initials'),
        role: f.get('role'),
      });
      return { name, link };
    },
    onSuccess: (l) => {
      form.current?.reset();
      onInvited(l);
    },
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    invite.mutate(new FormData(event.currentTarget));
  };
  return (
    <Box component="form" ref={form} onSubmit={submit} sx={{ mt: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Invite somebody
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}>
        <TextField name="name" label="Name" required helperText="a–z, 0–9, dot and dash" autoComplete="off" />
        <TextField name="initials" label="Initials" required sx={{ width: 120 }} autoComplete="off" />
        <TextField select name="role" label="Role" defaultValue="technician" sx={{ width: 170 }}>
          {roles.map((r) => (
            <MenuItem key={r} value={r}>
              {r}
            </MenuItem>
          ))}
        </TextField>
        <Button type="submit" variant="contained" sx={gloved} disabled={invite.isPending}>
          Make the account and a link
        </Button>
      </Box>
      <ProblemNote error={invite.error} />
    </Box>
  );
}
