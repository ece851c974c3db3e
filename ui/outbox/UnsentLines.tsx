'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import PageLink from '../shared/PageLink';
import { MarginLine } from '../shared/MarginLine';
import { usePerson } from '../shared/person';
import { timeText } from '../shared/time';
import { useUnsent } from './outbox';
import { saysOf, titleOf } from './says';

/** What was done here and is not sent yet, where it will stand once it is. */
export function UnsentLines({ stationId }: { stationId: string | null }) {
  const { id } = usePerson();
  const items = useUnsent().filter((i) => i.person.id === id && (!stationId || i.stationId === stationId));
  if (items.length === 0) return null;
  return (
    <Box component="section" aria-label="Not sent yet" sx={{ mt: 2 }}>
      {[...items].reverse().map((item) => {
        const { occurredAt } = item.body as { occurredAt: string };
        const isRefused = item.state === 'refused';
        return (
          <MarginLine
            key={item.seq}
            isKept={false}
            mark={isRefused ? '!' : '↥'}
            colour={isRefused ? 'error.main' : 'warning.main'}
            margin={
              <>
                <time dateTime={occurredAt}>{timeText(occurredAt, item.zone)}</time> · {item.person.initials}
                <Box>
                  <Link component={PageLink} href="/unsent" color="inherit">
                    {isRefused ? 'refused, to be settled' : 'not sent yet'}
                  </Link>
                </Box>
              </>
            }
          >
            {item.kind !== 'note' && `${titleOf(item)}, `}
            {item.where}: {saysOf(item)}
          </MarginLine>
        );
      })}
    </Box>
  );
}
