'use client';

import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useSyncExternalStore, type FormEvent } from 'react';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { EntryDone } from './EntryDone';
import { EntryFrame } from './EntryFrame';
import { NewPasswordFields, newPasswordOf } from './NewPasswordFields';

/** What stands behind the hash sign of the address; null until the page is awake. */
export const useAddressSecret = (): string | null =>
  useSyncExternalStore(
    () => () => {},
    () => window.location.hash.slice(1),
    () => null,
  );

/** Chooses a password with a link that works once. */
export function SetPassword() {
  const token = useAddressSecret();
  const holder = useQuery({
    queryKey: ['password-link', token],
    enabled: Boolean(token),
    queryFn: () => send<{ name: string }>('POST', '/api/v1/password-link', { token }),
    retry: false,
    refetchOnWindowFocus: false,
  });
  const choose = useMutation({
    mutationFn: (form: FormData) =>
      send<{ name: string }>('POST', '/api/v1/password-link', { token, password: newPasswordOf(form) }),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    choose.mutate(new FormData(event.currentTarget));
  };
  if (choose.data)
    return (
      <EntryDone
        title="The password is set"
        says={`Sign in as ${choose.data.name} with it. Sessions of before have ended.`}
      />
    );
  return (
    <EntryFrame
      title="Choose a password"
      says={holder.data ? `For ${holder.data.name}. This link works once.` : 'This link works once.'}
      onSubmit={submit}
    >
      {token === '' && (
        <Typography role="alert">
          The link is not whole: copy all of it, with what stands behind the # sign, or ask an administrator
          for a new one.
        </Typography>
      )}
      <ProblemNote error={holder.error} />
      {holder.data && (
        <>
          <NewPasswordFields />
          <ProblemNote error={choose.error} />
          <Button type="submit" variant="contained" disabled={choose.isPending} sx={gloved}>
            Set the password
          </Button>
        </>
      )}
      <Link component={PageLink} href="/sign-in">
        Go to the sign-in page
      </Link>
    </EntryFrame>
  );
}
