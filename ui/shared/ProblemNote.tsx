'use client';

import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import type { ReactNode } from 'react';
import { Refusal } from './api';

/** A refusal in plain words: what happened, what to do. */
export function ProblemNote({ error, children }: { error: unknown; children?: ReactNode }) {
  if (!error) return null;
  const problem = error instanceof Refusal ? error.problem : null;
  return (
    <Alert
      severity="error"
      variant="outlined"
      role="alert"
      sx={{ my: 1, bgcolor: 'ground.heatherWash', color: 'text.primary' }}
    >
      <AlertTitle>{problem?.detail ?? 'Something broke on this page.'}</AlertTitle>
      {problem?.remedy ?? 'Load the page again; nothing that was saved is lost.'}
      {children}
    </Alert>
  );
}
