'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { gloved } from '../shared/theme';

const pages = [
  { href: '/watch', label: 'Board' },
  { href: '/watch/alarms', label: 'Alarms' },
  { href: '/watch/receivers', label: 'Who is told' },
] as const;

/** Head of the pages of Watch: the way between them, and what the page itself offers. */
export function WatchHead({
  title,
  here,
  children,
}: {
  title: string;
  here: (typeof pages)[number]['href'];
  children?: ReactNode;
}) {
  const mayMeasure = useMay('measure');
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 2 }}>
      <Typography variant="h1" sx={{ flexGrow: 1 }}>
        {title}
      </Typography>
      {children}
      {pages
        .filter((p) => p.href !== here && (p.href !== '/watch/receivers' || mayMeasure))
        .map((p) => (
          <Button key={p.href} component={PageLink} href={p.href} sx={gloved}>
            {p.label}
          </Button>
        ))}
    </Box>
  );
}
