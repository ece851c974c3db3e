'use client';

import { createTheme } from '@mui/material/styles';

/**
 * Peat, stone, lichen and a clear sky. Light is high-contrast for sunlight, dark for cabinets and
 * sheds. Colour only supports what word and shape already say.
 */
const light = {
  peat: '#221a14',
  stone: '#efece4',
  paper: '#fbfaf6',
  line: '#b9b2a4',
  quiet: '#574e45',
  lichen: '#4d5c12',
  lichenWash: '#e6ebcd',
  sky: '#0a5c80',
  skyWash: '#d9ecf4',
  heather: '#9c2b4e',
  heatherWash: '#f7dfe6',
  ochre: '#7d5200',
  ochreWash: '#f6e7c8',
  band: '#2e241c',
  onBand: '#f4efe6',
};
const dark: typeof light = {
  peat: '#f0eae0',
  stone: '#171310',
  paper: '#201a16',
  line: '#4d443b',
  quiet: '#bdb3a6',
  lichen: '#bccb6d',
  lichenWash: '#2f351a',
  sky: '#83cdec',
  skyWash: '#16323e',
  heather: '#f59ab5',
  heatherWash: '#45202c',
  ochre: '#e5b65c',
  ochreWash: '#3d2e12',
  band: '#0f0c0a',
  onBand: '#f0eae0',
};

const palette = (mode: 'light' | 'dark', c: typeof light) => ({
  mode,
  primary: { main: c.sky, contrastText: mode === 'light' ? '#ffffff' : '#0d1a20' },
  secondary: { main: c.lichen, contrastText: mode === 'light' ? '#ffffff' : '#14170a' },
  error: { main: c.heather, contrastText: mode === 'light' ? '#ffffff' : '#24080f' },
  warning: { main: c.ochre, contrastText: mode === 'light' ? '#ffffff' : '#221803' },
  success: { main: c.lichen, contrastText: mode === 'light' ? '#ffffff' : '#14170a' },
  text: { primary: c.peat, secondary: c.quiet },
  background: { default: c.stone, paper: c.paper },
  divider: c.line,
  ground: c,
});

declare module '@mui/material/styles' {
  interface Palette {
    ground: typeof light;
  }
  interface PaletteOptions {
    ground?: typeof light;
  }
}

export const theme = createTheme({
  cssVariables: { colorSchemeSelector: 'data-scheme' },
  colorSchemes: { light: { palette: palette('light', light) }, dark: { palette: palette('dark', dark) } },
  shape: { borderRadius: 3 },
  typography: {
    fontFamily: '"IBM Plex Sans", sans-serif',
    fontSize: 15,
    h1: { fontSize: '1.7rem', fontWeight: 600, letterSpacing: '-0.01em' },
    h2: { fontSize: '1.2rem', fontWeight: 600 },
    h3: { fontSize: '1rem', fontWeight: 600 },
    button: { textTransform: 'none', fontWeight: 600 },
    body2: { fontSize: '0.9rem' },
    caption: { fontSize: '0.82rem' },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        body: { fontVariantNumeric: 'tabular-nums lining-nums' },
        '@page': { size: 'A4 portrait', margin: '13mm' },
        // Paper has no use for the ways through the application.
        '@media print': {
          'header, aside[aria-label="Running now"]': { display: 'none !important' },
          // The margins of a page are the root's ground, dark in a dark scheme.
          'html, body': { background: '#fff !important', colorScheme: 'light !important' },
        },
        // Whoever asks the system for less motion gets none.
        '@media (prefers-reduced-motion: reduce)': {
          '*, *::before, *::after': {
            animationDuration: '0.01ms !important',
            animationIterationCount: '1 !important',
            transitionDuration: '0.01ms !important',
            transitionDelay: '0s !important',
            scrollBehavior: 'auto !important',
          },
          // A rule for everything makes every change a transition: of a long path that is dear.
          'svg *': { transition: 'none !important' },
        },
        'a:focus-visible, button:focus-visible, [tabindex]:focus-visible': {
          outline: '3px solid var(--mui-palette-primary-main)',
          outlineOffset: 2,
        },
      },
    },
    MuiButton: { defaultProps: { disableElevation: true, variant: 'outlined' } },
    MuiPaper: { defaultProps: { elevation: 0 } },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiTableCell: { styleOverrides: { root: { padding: '6px 10px' }, head: { fontWeight: 600 } } },
    MuiToggleButton: { styleOverrides: { root: { color: 'var(--mui-palette-text-primary)' } } },
    MuiLink: { defaultProps: { underline: 'always' } },
  },
});

/** Controls used with gloves are at least so high. */
export const gloved = { minHeight: 52, fontSize: '1.05rem', px: 3 } as const;
/** A form that opens within a page. */
export const openForm = {
  mb: 3,
  p: 2,
  border: 1,
  borderColor: 'divider',
  display: 'grid',
  gap: 1.5,
} as const;
/** Fields side by side as the width allows, each so wide at least. */
export const fieldGrid = (least: number) =>
  ({ display: 'grid', gridTemplateColumns: `repeat(auto-fit, minmax(${least}px, 1fr))`, gap: 1 }) as const;
