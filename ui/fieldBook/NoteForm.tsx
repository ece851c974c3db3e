'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState, type Ref } from 'react';
import { useDraft } from '../outbox/useDraft';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';

export interface NoteStation {
  id: string;
  code: string;
  name: string;
  zone: string;
}

/** A note at a station, kept with every key; the moment can be stamped before the words are there. */
export function NoteForm({
  stations,
  stationId,
  visitId,
  onAdded,
  field,
}: {
  stations: readonly NoteStation[];
  stationId: string | null;
  /** The signed page it is added to. */
  visitId?: string;
  onAdded: () => void;
  /** Of what is typed into, for whoever leads there. */
  field?: Ref<HTMLTextAreaElement>;
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
  const write = () => {
    const words = text.trim();
    const intended = {
      kind: 'note' as const,
      stationId: target,
      where: about?.code ?? '',
      zone: about?.zone ?? 'utc',
      body: {
        lineId: newId(),
        stationId: target,
        text: words,
        occurredAt: at ?? nowText(),
        ...(visitId && { visitId }),
      },
      // A page that goes away now must not show it again as still to be written.
      onKept: () => setText(''),
    };
    add.mutate(intended, { onError: () => setText(words) });
  };
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
        {...(field && { inputRef: field })}
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
