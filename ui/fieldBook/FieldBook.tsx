'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { FieldBookLineView } from '@/contract/views';
import { UnsentLines } from '../outbox/UnsentLines';
import { useDraft } from '../outbox/useDraft';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { load, newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay, usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';
import { BookLine } from './BookLine';

const pageLength = 100;

interface Station {
  id: string;
  code: string;
  name: string;
  zone: string;
}

/** The visits as they happened, newest first; people add words and times, not copies of numbers. */
export function FieldBook({
  initial,
  stations,
  stationId,
}: {
  initial: FieldBookLineView[];
  stations: Station[];
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

function NoteForm({
  stations,
  stationId,
  onAdded,
}: {
  stations: Station[];
  stationId: string | null;
  onAdded: () => void;
}) {
  const person = usePerson();
  const [text, setText] = useDraft(person.id, 'note');
  const [at, setAt] = useState<string | null>(null);
  const [chosen, setChosen] = useState(stationId ?? stations[0]?.id ?? '');
  const target = stationId ?? chosen;
  const add = useFieldWrite<'note'>(() => {
    setText('');
    setAt(null);
    onAdded();
  });
  const about = stations.find((s) => s.id === target);
  const write = () =>
    add.mutate({
      kind: 'note',
      stationId: target,
      where: about?.code ?? '',
      zone: about?.zone ?? 'utc',
      body: { lineId: newId(), stationId: target, text: text.trim(), occurredAt: at ?? nowText() },
    });
  return (
    <Box
      component="form"
      sx={{
        display: 'grid',
        gap: 1.5,
        gridTemplateColumns: { xs: '1fr', md: '1fr auto auto' },
        alignItems: 'start',
      }}
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim() && !add.isPending) write();
      }}
    >
      <TextField
        label="Note"
        value={text}
        onChange={(e) => setText(e.target.value)}
        multiline
        minRows={1}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
      <Button onClick={() => setAt(nowText())} sx={gloved} title="Keeps this moment as the time of the note">
        {at ? secondText(at) : 'Stamp the time'}
      </Button>
      <Button
        type="submit"
        variant="contained"
        disabled={!text.trim() || add.isPending || !target}
        sx={gloved}
      >
        Add note
      </Button>
      {!stationId && (
        <TextField select label="Note belongs to" value={chosen} onChange={(e) => setChosen(e.target.value)}>
          {stations.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.code} {s.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Box sx={{ gridColumn: '1 / -1' }}>
        <ProblemNote error={add.error} />
      </Box>
    </Box>
  );
}
