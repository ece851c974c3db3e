'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import NextLink from 'next/link';
import { usePerson } from '../shared/person';
import { timeText } from '../shared/time';
import { useOutbox } from './outbox';
import { saysOf, titleOf } from './says';

/** What was done here and is not sent yet, where it will stand once it is. */
export function UnsentLines({ stationId }: { stationId: string | null }) {
  const { id } = usePerson();
  const items = useOutbox().items.filter(
    (i) => i.person.id === id && (!stationId || i.stationId === stationId),
  );
  if (items.length === 0) return null;
  return (
    <Box component="section" aria-label="Not sent yet" sx={{ mt: 2 }}>
      {[...items].reverse().map((item) => {
        const { occurredAt } = item.body as { occurredAt: string };
        return (
          <Box
            key={item.seq}
            component="article"
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '24px 1fr', md: '24px 190px 1fr' },
              columnGap: 1.5,
              py: 0.75,
              borderTop: 1,
              borderTopStyle: 'dashed',
              borderColor: 'divider',
            }}
          >
            <Box
              aria-hidden
              sx={{ color: item.state === 'refused' ? 'error.main' : 'warning.main', fontWeight: 700 }}
            >
              {item.state === 'refused' ? '!' : '↥'}
            </Box>
            <Box sx={{ fontSize: '0.88rem', color: 'text.secondary', gridColumn: { xs: 2, md: 'auto' } }}>
              <time dateTime={occurredAt}>{timeText(occurredAt, item.zone)}</time> · {item.person.initials}
              <Box>
                <Link component={NextLink} href="/unsent" color="inherit">
                  {item.state === 'refused' ? 'refused, to be settled' : 'not sent yet'}
                </Link>
              </Box>
            </Box>
            <Box sx={{ gridColumn: { xs: 2, md: 'auto' }, overflowWrap: 'anywhere' }}>
              {item.kind !== 'note' && `${titleOf(item)}, `}
              {item.where}: {saysOf(item)}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
