'use client';

import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { EntryDone } from './EntryDone';
import { EntryFrame } from './EntryFrame';
import { NewPasswordFields, newPasswordOf } from './NewPasswordFields';
import { useAddressSecret } from './SetPassword';

/** The first administrator, made with the code that the server shows when it starts. */
export function Welcome({ needed }: { needed: boolean }) {
  const code = useAddressSecret();
  const make = useMutation({
    mutationFn: (form: FormData) =>
      send<{ name: string }>('POST', '/api/v1/setup', {
        code,
        name: form.get('name'),
        initials: form.get('initials'),
        password: newPasswordOf(form),
      }),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    make.mutate(new FormData(event.currentTarget));
  };
  if (make.data)
    return (
      <EntryDone
        title="Outer Cairn is yours"
        says={`${make.data.name} may do everything here. Sign in, then invite the others under Administration.`}
      />
    );
  if (!needed)
    return (
      <EntryDone
        title="There is an administrator"
        says="The first account was made already. Others are invited by an administrator."
      />
    );
  return (
    <EntryFrame
      title="The first account"
      says="It is an administrator’s: it may do everything, and invites the others."
      onSubmit={submit}
    >
      {code === '' && (
        <Typography role="alert">
          The address lacks its code. Start the application and open the address it prints, whole.
        </Typography>
      )}
      <TextField
        name="name"
        label="Name"
        autoComplete="username"
        required
        size="medium"
        helperText="2–40 of a–z, 0–9, dot and dash"
      />
      <TextField
        name="initials"
        label="Initials"
        required
        size="medium"
        helperText="as they stand in the field book"
      />
      <NewPasswordFields />
      <ProblemNote error={make.error} />
      <Button type="submit" variant="contained" disabled={make.isPending || !code} sx={gloved}>
        Make the account
      </Button>
    </EntryFrame>
  );
}
