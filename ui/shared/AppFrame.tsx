'use client';

import DarkModeOutlined from '@mui/icons-material/DarkModeOutlined';
import LightModeOutlined from '@mui/icons-material/LightModeOutlined';
import MenuIcon from '@mui/icons-material/Menu';
import PersonOutlined from '@mui/icons-material/PersonOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import IconButton from '@mui/material/IconButton';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useColorScheme } from '@mui/material/styles';
import PageLink from './PageLink';
import { usePathname } from 'next/navigation';
import { useState, type MouseEvent, type ReactNode } from 'react';
import { may } from '@/contract/permission';
import type { PersonView } from '@/contract/views';
import { OutboxStrip } from '../outbox/OutboxStrip';
import { AwayStrip } from '../taken/AwayStrip';
import { DeviceStrip } from '../taken/DeviceStrip';
import { signOut } from '../taken/signOut';
import { ClockStrip } from './ClockStrip';
import { PersonProvider } from './person';
import { Shortcuts } from './Shortcuts';

const places = [
  { href: '/', label: 'Round' },
  { href: '/verify', label: 'Verify' },
  { href: '/watch', label: 'Watch' },
  { href: '/field-book', label: 'Field book' },
  { href: '/kit', label: 'Kit' },
];

/** A station's views have a row of their own: there none of these is where one is. */
const isHere = (href: string, path: string) => (href === '/' ? path === '/' : path.startsWith(href));

/**
 * The band on top, one line at any width; the strip of running clocks, the view below.
 *
 * @param away drawn from what the device holds: when that was taken along, null where that cannot be said
 */
export function AppFrame({
  person,
  away,
  children,
}: {
  person: PersonView;
  away?: { readonly takenAt: string | null };
  children: ReactNode;
}) {
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
          gap: { xs: 0.5, md: 3 },
          px: { xs: 1, md: 3 },
          height: 56,
          whiteSpace: 'nowrap',
        }}
      >
        <ViewMenu path={path} />
        <Box
          component={PageLink}
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
        <Box
          component="nav"
          aria-label="Views"
          sx={{ display: { xs: 'none', md: 'flex' }, flexGrow: 1, alignSelf: 'stretch' }}
        >
          {places.map((p) => {
            const here = isHere(p.href, path);
            return (
              <Box
                key={p.href}
                component={PageLink}
                href={p.href}
                aria-current={here ? 'page' : undefined}
                sx={{
                  color: 'inherit',
                  px: 1.75,
                  display: 'flex',
                  alignItems: 'center',
                  textDecoration: 'none',
                  borderBottom: 3,
                  borderTop: '3px solid transparent',
                  borderBottomColor: here ? '#c3d06f' : 'transparent',
                  fontWeight: here ? 600 : 400,
                  '&:hover': { borderBottomColor: '#8d9a4a' },
                }}
              >
                {p.label}
              </Box>
            );
          })}
        </Box>
        <Box sx={{ flexGrow: { xs: 1, md: 0 } }} />
        <Box sx={{ display: { xs: 'none', md: 'block' } }}>
          <Shortcuts />
        </Box>
        <SchemeSwitch />
        <PersonMenu person={person} />
      </Box>
      {away ? <AwayStrip takenAt={away.takenAt} /> : <DeviceStrip />}
      <OutboxStrip />
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

/** What a menu button and its menu share. */
function useMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return {
    button: {
      'aria-haspopup': 'menu' as const,
      'aria-expanded': anchor !== null,
      onClick: (event: MouseEvent<HTMLElement>) => setAnchor(event.currentTarget),
    },
    menu: { anchorEl: anchor, open: anchor !== null, onClose: () => setAnchor(null) },
    close: () => setAnchor(null),
  };
}

/** On a phone the views stand in a menu. */
function ViewMenu({ path }: { path: string }) {
  const { button, menu, close } = useMenu();
  return (
    <Box sx={{ display: { xs: 'block', md: 'none' } }}>
      <IconButton color="inherit" aria-label="Views" sx={{ width: 48, height: 48 }} {...button}>
        <MenuIcon />
      </IconButton>
      <Menu {...menu}>
        {places.map((p) => (
          <MenuItem
            key={p.href}
            component={PageLink}
            href={p.href}
            selected={isHere(p.href, path)}
            onClick={close}
            sx={{ minHeight: 48 }}
          >
            {p.label}
          </MenuItem>
        ))}
      </Menu>
    </Box>
  );
}

/** Own account, people for those who may, and the way out. */
function PersonMenu({ person }: { person: PersonView }) {
  const { button, menu, close } = useMenu();
  return (
    <>
      <Button
        color="inherit"
        startIcon={<PersonOutlined />}
        aria-label={`${person.name}, ${person.role}`}
        variant="text"
        sx={{ minHeight: 48, px: 1, fontWeight: 500, flexShrink: 0, border: 0 }}
        {...button}
      >
        {person.initials}
        <Box component="span" sx={{ display: { xs: 'none', md: 'inline' } }}>
          &nbsp;· {person.role}
        </Box>
      </Button>
      <Menu {...menu}>
        <MenuItem component={PageLink} href="/account" onClick={close} sx={{ minHeight: 48 }}>
          Own account
        </MenuItem>
        <MenuItem component={PageLink} href="/take-along" onClick={close} sx={{ minHeight: 48 }}>
          Take along
        </MenuItem>
        <MenuItem component={PageLink} href="/unsent" onClick={close} sx={{ minHeight: 48 }}>
          Not sent yet
        </MenuItem>
        {may(person.role, 'set-up') && (
          <MenuItem component={PageLink} href="/set-up" onClick={close} sx={{ minHeight: 48 }}>
            Sites and stations
          </MenuItem>
        )}
        <MenuItem component={PageLink} href="/catalogue" onClick={close} sx={{ minHeight: 48 }}>
          Catalogue
        </MenuItem>
        {may(person.role, 'administer') && (
          <MenuItem component={PageLink} href="/administration" onClick={close} sx={{ minHeight: 48 }}>
            Administration
          </MenuItem>
        )}
        <Divider />
        <MenuItem sx={{ minHeight: 48 }} onClick={() => void signOut()}>
          Sign out
        </MenuItem>
      </Menu>
    </>
  );
}

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
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true" style={{ flexShrink: 0 }}>
      <path d="M4 26 Q4 21 11 20.5 Q22 19.5 27 22 Q29 25 26 27 Q15 29 6 28 Q4 27.5 4 26Z" fill="#c3d06f" />
      <path d="M8 17.5 Q8 13.5 15 13 Q23 13 24 16 Q24 19 16 19 Q8.5 19.5 8 17.5Z" fill="#a9a296" />
      <path d="M11.5 9.5 Q11 6 16 5.5 Q21 5.5 21 9 Q20 12 16 11.8 Q12 12 11.5 9.5Z" fill="#83cdec" />
    </svg>
  );
}
