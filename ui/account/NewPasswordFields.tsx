'use client';

import TextField from '@mui/material/TextField';
import { refuseHere } from '../shared/api';

/** A new password, typed twice. */
export function NewPasswordFields() {
  return (
    <>
      <TextField
        name="password"
        label="New password"
        type="password"
        autoComplete="new-password"
        required
        size="medium"
        helperText="at least 10 characters"
      />
      <TextField
        name="again"
        label="New password once more"
        type="password"
        autoComplete="new-password"
        required
        size="medium"
      />
    </>
  );
}

/** The new password of a form, or a refusal where the two differ. */
export function newPasswordOf(form: FormData): string {
  const password = String(form.get('password') ?? '');
  if (password !== form.get('again'))
    throw refuseHere('passwords-differ', 'again', 'The two passwords differ.', 'Type both once more.');
  return password;
}
