'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { FormEvent, ReactNode } from 'react';
import { Mark } from '../shared/AppFrame';

/** The form of a page that comes before anybody is signed in. */
export function EntryFrame({
  title,
  says,
  onSubmit,
  children,
}: {
  title: string;
  says: ReactNode;
  onSubmit: (event: FormEvent<HTMLFormElement>) => void;
  children: ReactNode;
}) {
  return (
    <Box component="main" sx={{ minHeight: '100vh', display: 'grid', placeItems: 'center', px: 2 }}>
      <Box
        component="form"
        onSubmit={onSubmit}
        method="post"
        sx={{ width: '100%', maxWidth: 380, display: 'grid', gap: 2 }}
      >
        <Box sx={{ bgcolor: 'ground.band', width: 'fit-content', p: 1.5, borderRadius: 1 }}>
          <Mark size={56} />
        </Box>
        <Typography variant="h1">{title}</Typography>
        <Typography color="text.secondary">{says}</Typography>
        {children}
      </Box>
    </Box>
  );
}
