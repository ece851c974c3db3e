'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import type { FieldBookLineView } from '@/contract/views';
import { UnsentLines } from '../outbox/UnsentLines';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { BookLine } from './BookLine';
import { NoteForm, type NoteStation } from './NoteForm';

const pageLength = 100;

/** The visits as they happened, newest first; people add words and times, not copies of numbers. */
export function FieldBook({
  initial,
  stations,
  stationId,
}: {
  initial: FieldBookLineView[];
  stations: NoteStation[];
  stationId: string | null;
}) {
  const router = useRouter();
  const mayNote = useMay('note');
  const { data, error, refetch, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: ['field-book', stationId],
    queryFn: ({ pageParam }) =>
      load<FieldBookLineView[]>(
        `/api/v1/field-book?${new URLSearchParams({ ...(stationId && { station: stationId }), ...(pageParam && { before: pageParam }) })}`,
      ),
    initialPageParam: '',
    getNextPageParam: (last) => (last.length === pageLength ? last.at(-1)!.occurredAt : undefined),
    initialData: { pages: [initial], pageParams: [''] },
  });
  const lines = data.pages.flat();
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Field book
        </Typography>
        <TextField
          select
          label="Station"
          value={stationId ?? ''}
          sx={{ minWidth: 220 }}
          onChange={(e) =>
            router.push(e.target.value ? `/field-book?station=${e.target.value}` : '/field-book')
          }
        >
          <MenuItem value="">All stations</MenuItem>
          {stations.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.code} {s.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {mayNote && <NoteForm stations={stations} stationId={stationId} onAdded={() => void refetch()} />}
      <UnsentLines stationId={stationId} />
      <ProblemNote error={error} />
      {lines.length === 0 && (
        <Typography>
          Nothing yet. Every connection, check, write and collection leaves its line here by itself.
        </Typography>
      )}
      <Box sx={{ borderTop: 2, borderColor: 'text.primary', mt: 2 }}>
        {lines.map((l) => (
          <BookLine key={l.id} line={l} station={!stationId} />
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
