'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { useStationBasics } from './StationBasics';

/** The ways into a station; each with the views that belong to it. */
const parts: readonly {
  label: string;
  path: string;
  also?: readonly string[];
  needs?: 'logger' | 'bench' | 'water';
}[] = [
  { label: 'Station', path: '' },
  { label: 'Connect', path: '/connect', needs: 'logger' },
  { label: 'Bench', path: '/bench', needs: 'bench' },
  { label: 'Check', path: '/check', needs: 'logger' },
  { label: 'Water', path: '/water', needs: 'water' },
  { label: 'Visit', path: '/visit' },
  { label: 'Record', path: '/record', also: ['/trace', '/import', '/watch'] },
];

const tab = {
  px: { xs: 0.75, sm: 1.5 },
  py: 1,
  whiteSpace: 'nowrap',
  fontSize: { xs: '0.92rem', sm: '1rem' },
  color: 'text.primary',
  textDecoration: 'none',
} as const;

/** Name of the station and the ways into it, the same on each of its views. */
export function StationHead({
  stationId,
  code,
  name,
  children,
}: {
  stationId: string;
  code: string;
  name: string;
  children?: ReactNode;
}) {
  const path = usePathname();
  const basics = useStationBasics();
  const base = `/stations/${stationId}`;
  return (
    <Box sx={{ mb: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, flexWrap: 'wrap' }}>
        <Typography variant="h1">{name}</Typography>
        <Typography color="text.secondary">{code}</Typography>
        <Box
          component="nav"
          aria-label="This station"
          sx={{ display: 'flex', flexWrap: 'wrap', ml: { md: 2 } }}
        >
          {parts
            .filter((p) => !p.needs || basics[p.needs])
            .map((p) => {
              const here =
                p.path === ''
                  ? path === base
                  : [p.path, ...(p.also ?? [])].some((at) => path.startsWith(base + at));
              return (
                <Box
                  key={p.path}
                  component={PageLink}
                  href={base + p.path}
                  aria-current={here ? 'page' : undefined}
                  sx={{
                    ...tab,
                    borderBottom: 3,
                    borderColor: here ? 'primary.main' : 'transparent',
                    fontWeight: here ? 600 : 400,
                    '&:hover': { borderColor: 'divider' },
                  }}
                >
                  {p.label}
                </Box>
              );
            })}
          <Box component={PageLink} href={`/field-book?station=${stationId}`} sx={tab}>
            Field book
          </Box>
        </Box>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1, flexWrap: 'wrap' }}>{children}</Box>
      </Box>
    </Box>
  );
}
