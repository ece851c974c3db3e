'use client';

import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { AdapterLuxon } from '@mui/x-date-pickers/AdapterLuxon';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Refusal } from './api';
import { theme } from './theme';

export function Providers({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          // A browser that believes itself away would hold asking and writing back in silence.
          mutations: { networkMode: 'always' },
          queries: {
            networkMode: 'always',
            refetchOnReconnect: true,
            retry: (n, error) =>
              n < 2 &&
              error instanceof Refusal &&
              (error.problem.status === 0 || error.problem.status >= 500),
            refetchOnWindowFocus: true,
          },
        },
      }),
  );
  return (
    <ThemeProvider theme={theme} defaultMode="system">
      <CssBaseline />
      <LocalizationProvider dateAdapter={AdapterLuxon} adapterLocale="en-GB">
        <QueryClientProvider client={client}>{children}</QueryClientProvider>
      </LocalizationProvider>
    </ThemeProvider>
  );
}
