'use client';

import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

export interface StripItem {
  readonly key: string;
  readonly mark: string;
  readonly colour: string;
  readonly body: ReactNode;
}

/** A row under the band, on every view while there is something to say. */
export function Strip({ label, items }: { label: string; items: readonly StripItem[] }) {
  if (items.length === 0) return null;
  return (
    <Box
      component="aside"
      aria-label={label}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        columnGap: 3,
        rowGap: 0.25,
        px: { xs: 2, md: 3 },
        py: 0.75,
        bgcolor: 'ground.ochreWash',
        borderBottom: 1,
        borderColor: 'divider',
        fontSize: '0.9rem',
      }}
    >
      {items.map((i) => (
        <Box key={i.key} component="span">
          <Box component="span" aria-hidden sx={{ color: i.colour, fontWeight: 700, mr: 0.75 }}>
            {i.mark}
          </Box>
          {i.body}
        </Box>
      ))}
    </Box>
  );
}
