'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { Stop } from '../round/Round';
import { Age } from '../shared/Age';
import { useTaken } from '../taken/taken';

const none = new Map<string, never>();

/** The stops this device holds, worst first as they were: the Round where the application cannot be reached. */
export function HeldStops({ heading = 'h1' }: { heading?: 'h1' | 'h2' }) {
  const { stops } = useTaken();
  if (!stops) return null;
  const sorted = [...stops].sort((a, b) => a.rank - b.rank);
  return (
    <>
      <Typography variant={heading} sx={{ mb: 0.5 }}>
        Taken along
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        {sorted.length === 0
          ? 'No stop was taken along.'
          : `${sorted.length} ${sorted.length === 1 ? 'stop is' : 'stops are'} held on this device.`}
      </Typography>
      <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
        {sorted.map(({ stop, takenAt }, i) => (
          <Stop key={stop.stationId} stop={stop} rank={i + 1} current={false} small={none}>
            <Typography variant="caption" component="p" sx={{ m: 0 }}>
              Taken along <Age at={takenAt} />
              {' · '}
              <Link component={PageLink} href={`/stations/${stop.stationId}/visit`}>
                Visit
              </Link>
              {' · '}
              <Link component={PageLink} href={`/stations/${stop.stationId}/connect/plan`}>
                Wiring and photographs
              </Link>
            </Typography>
          </Stop>
        ))}
      </Box>
    </>
  );
}
