'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';

/** Shown when a page cannot be made: says whether the database is away, and goes on by itself. */
export function FailedPage({ reset }: { error: Error; reset: () => void }) {
  const [away, setAway] = useState<boolean | null>(null);
  useEffect(() => {
    let wasAway = false;
    const look = async () => {
      const up = await fetch('/api/health').then(
        (r) => r.ok,
        () => false,
      );
      setAway(!up);
      if (!up) wasAway = true;
      else if (wasAway) window.location.reload();
    };
    void look();
    const timer = setInterval(() => void look(), 2000);
    return () => clearInterval(timer);
  }, []);
  return (
    <Box component="main" sx={{ p: 6, maxWidth: 640, mx: 'auto' }} role="alert">
      <Typography variant="h1">{away ? 'The database is away' : 'This page could not be made'}</Typography>
      <Typography sx={{ my: 2 }}>
        {away
          ? 'Nothing that was saved is lost. This page looks every two seconds and goes on by itself when the database is back.'
          : 'Nothing that was saved is lost. Try once more; if it happens again, tell the administrator the time.'}
      </Typography>
      <Button onClick={reset} variant="contained">
        Try again
      </Button>
    </Box>
  );
}
