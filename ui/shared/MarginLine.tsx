import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** A line as on a page of a field book: its mark, when and who in the margin, what was done. */
export function MarginLine({
  as = 'article',
  mark,
  colour = 'primary.main',
  margin,
  isKept = true,
  children,
}: {
  as?: 'article' | 'li';
  mark: string;
  colour?: string;
  margin: ReactNode;
  /** One that is not on file yet is ruled with a broken line. */
  isKept?: boolean;
  children: ReactNode;
}) {
  return (
    <Box
      component={as}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '24px 1fr', md: '24px 190px 1fr' },
        columnGap: 1.5,
        py: 0.75,
        borderBottom: 1,
        borderBottomStyle: isKept ? 'solid' : 'dashed',
        borderColor: 'divider',
      }}
    >
      <Box aria-hidden sx={{ color: colour, fontWeight: 700 }}>
        {mark}
      </Box>
      <Box sx={{ fontSize: '0.88rem', color: 'text.secondary', gridColumn: { xs: 2, md: 'auto' } }}>
        {margin}
      </Box>
      <Box sx={{ gridColumn: { xs: 2, md: 'auto' }, overflowWrap: 'anywhere' }}>{children}</Box>
    </Box>
  );
}
