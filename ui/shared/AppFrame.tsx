'use client';

import DarkModeOutlined from '@mui/icons-material/DarkModeOutlined';
import LightModeOutlined from '@mui/icons-material/LightModeOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useColorScheme } from '@mui/material/styles';
import NextLink from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import type { PersonView } from '@/contract/views';
import { send } from './api';
import { ClockStrip } from './ClockStrip';
import { PersonProvider } from './person';
import { Shortcuts } from './Shortcuts';

const places = [
  { href: '/', label: 'Round' },
  { href: '/verify', label: 'Verify' },
  { href: '/field-book', label: 'Field book' },
  { href: '/kit', label: 'Kit' },
];

/** The band on top, the strip of running clocks, the view below. */
export function AppFrame({ person, children }: { person: PersonView; children: ReactNode }) {
  const path = usePathname();
  return (
    <PersonProvider person={person}>
      <Box
        component="a"
        href="#view"
        sx={{
          position: 'absolute',
          left: -9999,
          '&:focus': { left: 8, top: 8, zIndex: 10, bgcolor: 'background.paper', p: 1 },
        }}
      >
        Skip to the view
      </Box>
      <Box
        component="header"
        sx={{
          bgcolor: 'ground.band',
          color: 'ground.onBand',
          display: 'flex',
          alignItems: 'center',
          flexWrap: 'wrap',
          gap: { xs: 1, md: 3 },
          px: { xs: 2, md: 3 },
          minHeight: 56,
        }}
      >
        <Box
          component={NextLink}
          href="/"
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 1.25,
            color: 'inherit',
            textDecoration: 'none',
            fontWeight: 600,
            fontSize: '1.1rem',
          }}
        >
          <Mark />
          Outer Cairn
        </Box>
        <Box component="nav" aria-label="Views" sx={{ display: 'flex', flexGrow: 1 }}>
          {places.map((p) => {
            const here =
              p.href === '/' ? path === '/' || path.startsWith('/stations') : path.startsWith(p.href);
            return (
              <Box
                key={p.href}
                component={NextLink}
                href={p.href}
                aria-current={here ? 'page' : undefined}
                sx={{
                  color: 'inherit',
                  px: 1.75,
                  py: 2,
                  textDecoration: 'none',
                  borderBottom: 3,
                  borderColor: here ? '#c3d06f' : 'transparent',
                  fontWeight: here ? 600 : 400,
                  '&:hover': { borderColor: '#8d9a4a' },
                }}
              >
                {p.label}
              </Box>
            );
          })}
        </Box>
        <Shortcuts />
        <SchemeSwitch />
        <Box component="span" sx={{ fontSize: '0.9rem' }}>
          {person.initials} · {person.role}
        </Box>
        <Button
          color="inherit"
          size="small"
          sx={{ borderColor: 'currentcolor' }}
          onClick={() => void send('DELETE', '/api/v1/session').finally(() => signedOut())}
        >
          Sign out
        </Button>
      </Box>
      <ClockStrip />
      <Box
        component="main"
        id="view"
        tabIndex={-1}
        sx={{ px: { xs: 2, md: 3 }, py: 2.5, maxWidth: 1440, mx: 'auto', outline: 'none' }}
      >
        {children}
      </Box>
    </PersonProvider>
  );
}

/** A full load, so that nothing of the signed-in person stays in memory. */
const signedOut = () => window.location.replace('/sign-in');

function SchemeSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const isDark = (mode === 'system' ? systemMode : mode) === 'dark';
  return (
    <IconButton
      color="inherit"
      aria-label={isDark ? 'Light, for sunlight' : 'Dark, for cabinets and sheds'}
      onClick={() => setMode(isDark ? 'light' : 'dark')}
    >
      {isDark ? <LightModeOutlined /> : <DarkModeOutlined />}
    </IconButton>
  );
}

export function Mark({ size = 30 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path d="M4 26 Q4 21 11 20.5 Q22 19.5 27 22 Q29 25 26 27 Q15 29 6 28 Q4 27.5 4 26Z" fill="#c3d06f" />
      <path d="M8 17.5 Q8 13.5 15 13 Q23 13 24 16 Q24 19 16 19 Q8.5 19.5 8 17.5Z" fill="#a9a296" />
      <path d="M11.5 9.5 Q11 6 16 5.5 Q21 5.5 21 9 Q20 12 16 11.8 Q12 12 11.5 9.5Z" fill="#83cdec" />
    </svg>
  );
}
