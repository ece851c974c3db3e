'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { bookFilters, type BookChoices, type BookFilter } from '@/contract/fieldBookPage';
import type { FieldBookLineView } from '@/contract/views';
import { UnsentLines } from '../outbox/UnsentLines';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { BookFilters } from './BookFilters';
import { BookLine } from './BookLine';
import { NoteForm, type NoteStation } from './NoteForm';

const pageLength = 100;

/** A filter as it stands in an address, in one order. */
const queryOf = (filter: BookFilter): URLSearchParams =>
  new URLSearchParams(bookFilters.flatMap((name) => (filter[name] ? [[name, filter[name]]] : [])));

/** The visits as they happened, newest first; people add words and times, not copies of numbers. */
export function FieldBook({
  initial,
  stations,
  choices,
  asked,
}: {
  initial: FieldBookLineView[];
  stations: NoteStation[];
  /** What can be chosen from; null where the server was not asked. */
  choices: BookChoices | null;
  /** What `initial` was asked for. */
  asked: BookFilter;
}) {
  const router = useRouter();
  const mayNote = useMay('note');
  const [filter, setFilter] = useState(asked);
  const query = queryOf(filter).toString();
  const { data, error, refetch, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: ['field-book', query],
    queryFn: ({ pageParam }) => {
      const params = queryOf(filter);
      if (pageParam) params.set('before', pageParam);
      return load<FieldBookLineView[]>(`/api/v1/field-book?${params}`);
    },
    initialPageParam: '',
    getNextPageParam: (last) => (last.length === pageLength ? last.at(-1)!.occurredAt : undefined),
    placeholderData: keepPreviousData,
    ...(query === queryOf(asked).toString() && { initialData: { pages: [initial], pageParams: [''] } }),
  });
  const change = (changes: BookFilter) => {
    const next = { ...filter, ...changes };
    const address = `/field-book${queryOf(next).size ? `?${queryOf(next)}` : ''}`;
    // Another station has other channels: the page is made anew.
    if ((next.station ?? '') !== (filter.station ?? '')) return router.push(address);
    setFilter(next);
    window.history.replaceState(null, '', address);
  };
  const stationId = filter.station ?? null;
  const lines = data?.pages.flat() ?? [];
  const isNarrow = bookFilters.some((name) => name !== 'station' && filter[name]);
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Field book
        </Typography>
        {stationId && (
          <>
            <Button component={PageLink} sx={gloved} href={`/stations/${stationId}/visit`}>
              Visit
            </Button>
            <Button component={PageLink} sx={gloved} href={`/stations/${stationId}/hand-over`}>
              Hand-over
            </Button>
          </>
        )}
      </Box>
      <BookFilters stations={stations} choices={choices} filter={filter} onChange={change} />
      {mayNote && <NoteForm stations={stations} stationId={stationId} onAdded={() => void refetch()} />}
      {choices !== null && choices.unassigned > 0 && (
        <Typography sx={{ mt: 1 }}>
          <Link component={PageLink} href="/kit/readings">
            {choices.unassigned} {choices.unassigned === 1 ? 'reading' : 'readings'} of handhelds
          </Link>{' '}
          {choices.unassigned === 1 ? 'waits' : 'wait'} for a site.
        </Typography>
      )}
      <UnsentLines stationId={stationId} />
      <ProblemNote error={error} />
      {lines.length === 0 && (
        <Typography sx={{ mt: 2 }}>
          {isNarrow
            ? 'No line is like that.'
            : 'Nothing yet. Every connection, check, write and collection leaves its line here by itself.'}
        </Typography>
      )}
      <Box sx={{ borderTop: 2, borderColor: 'text.primary', mt: 2 }}>
        {lines.map((l, i) => (
          <BookLine
            key={l.id}
            line={l}
            station={!stationId}
            page={l.visitId !== lines[i - 1]?.visitId ? l.visitId : null}
          />
        ))}
      </Box>
      {hasNextPage && (
        <Button sx={{ mt: 2 }} onClick={() => void fetchNextPage()}>
          Earlier lines
        </Button>
      )}
    </>
  );
}
