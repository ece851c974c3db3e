'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState, type ReactNode } from 'react';
import type { StationBasics } from '@/contract/views';
import { AppFrame } from '../shared/AppFrame';
import { ProblemNote } from '../shared/ProblemNote';
import { StationBasicsProvider } from '../station/StationBasics';
import { of } from '../taken/addresses';
import { goAway, held, type Away as Gone } from '../taken/away';
import { isSigningOut } from '../taken/signOut';
import { lookAtTaken } from '../taken/taken';
import { HeldStops } from './HeldStops';
import { awayViewOf, type AwayView } from './views';

type Drawn =
  | { readonly kind: 'nobody' }
  | { readonly kind: 'needs-server'; readonly away: Gone }
  | { readonly kind: 'not-held'; readonly away: Gone; readonly error: unknown }
  | {
      readonly kind: 'view';
      readonly away: Gone;
      readonly view: ReactNode;
      readonly basics: StationBasics | null;
      readonly takenAt: string | null;
    };

/** Draws the view of this address from what the device holds. */
async function draw({ pathname, search }: Location): Promise<Drawn> {
  const away = isSigningOut() ? null : await goAway().catch(() => null);
  if (!away) return { kind: 'nobody' };
  const person = away.holder.person.id;
  await lookAtTaken(person);
  const found = awayViewOf(pathname);
  if (!found) return { kind: 'needs-server', away };
  try {
    return { kind: 'view', away, ...(await bodyOf(away, found.view, found.params, search)) };
  } catch (error) {
    return { kind: 'not-held', away, error };
  }
}

async function bodyOf(away: Gone, view: AwayView, params: Record<string, string>, search: string) {
  const stops = (await away.db.getAll('stop')).filter((s) => s.person === away.holder.person.id);
  const at = { params, query: new URLSearchParams(search), stops };
  const answer = view.address ? await held(away, view.address(at)) : { body: null, takenAt: null };
  const stationId = params.stationId;
  const basics = stationId ? ((await held(away, of(stationId).basics)).body as StationBasics) : null;
  return { view: view.draw(answer.body, at), basics, takenAt: answer.takenAt };
}

/** The application where its server cannot be reached: what was taken along, under the address that was wanted. */
export function Away() {
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  // The address is only known in the browser: the page itself is the same for all of them.
  useEffect(() => void draw(window.location).then(setDrawn), []);
  if (!drawn) return null;
  if (drawn.kind === 'nobody') return <Nobody />;
  const { person } = drawn.away.holder;
  return (
    <AppFrame person={person} away={{ takenAt: drawn.kind === 'view' ? drawn.takenAt : null }}>
      {drawn.kind === 'view' ? (
        drawn.basics ? (
          <StationBasicsProvider basics={drawn.basics}>{drawn.view}</StationBasicsProvider>
        ) : (
          drawn.view
        )
      ) : (
        <>
          <Typography variant="h1" sx={{ mb: 1 }}>
            {drawn.kind === 'needs-server' ? 'This view needs the server' : 'Not taken along'}
          </Typography>
          {drawn.kind === 'not-held' ? (
            <ProblemNote error={drawn.error} />
          ) : (
            <Typography>
              The application cannot be reached, and this view asks it. What was taken along works; what is
              done there is kept on this device.
            </Typography>
          )}
          <Box sx={{ mt: 3 }}>
            <HeldStops heading="h2" />
          </Box>
        </>
      )}
    </AppFrame>
  );
}

/** Nobody is known to be signed in here: nothing is shown, whatever the device holds. */
function Nobody() {
  return (
    <Box component="main" sx={{ p: { xs: 3, md: 6 }, maxWidth: 640, mx: 'auto' }}>
      <Typography variant="h1">The application cannot be reached</Typography>
      <Typography sx={{ my: 2 }}>
        Nobody is signed in on this device, so nothing of a station is held on it. What waits to be sent stays
        here until its writer signs in again.
      </Typography>
      <Button variant="contained" onClick={() => window.location.reload()}>
        Try again
      </Button>
    </Box>
  );
}
