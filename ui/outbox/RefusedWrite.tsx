'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { InConflict } from '@/contract/fieldWrites';
import { InstantField } from '../shared/DateFields';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';
import { discardQueued, keepAsNote, sendAgain } from './outbox';
import type { Queued } from './queued';

/** A write the server refused: why, the other version where there is one, and what can be done. */
export function RefusedWrite({ item }: { item: Queued }) {
  const [busy, setBusy] = useState(false);
  const [leaving, setLeaving] = useState(false);
  const [time, setTime] = useState<number | null>(null);
  const { problem } = item;
  const { there, confirm } = (problem?.extra ?? {}) as Partial<InConflict> & { confirm?: boolean };
  const act = (work: () => Promise<void>) => () => {
    setBusy(true);
    void work().finally(() => setBusy(false));
  };
  const aboutTime = problem?.code === 'future-time' || problem?.code === 'bad-time';
  return (
    <Box sx={{ mt: 0.5, pl: 1.5, borderLeft: 3, borderColor: 'error.main' }}>
      <Typography>
        <b>Refused.</b> {problem?.detail} {problem?.remedy}
      </Typography>
      {there && (
        <Typography>
          <b>There already</b> · {there.by}: {there.says}, {secondText(there.from, item.zone)}
          {there.until && ` until ${secondText(there.until, item.zone)}`}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
        {leaving ? (
          <>
            <Typography>Gone for good:</Typography>
            <Button
              color="error"
              variant="contained"
              sx={gloved}
              disabled={busy}
              onClick={act(() => discardQueued(item.seq))}
            >
              Leave it out
            </Button>
            <Button sx={gloved} onClick={() => setLeaving(false)}>
              Keep it
            </Button>
          </>
        ) : (
          <>
            <Button variant="outlined" sx={gloved} disabled={busy} onClick={act(() => sendAgain(item))}>
              Try again
            </Button>
            {confirm && (
              <Button
                variant="outlined"
                sx={gloved}
                disabled={busy}
                onClick={act(() => sendAgain(item, { ...item.body, confirmed: true } as Queued['body']))}
              >
                The display really showed this
              </Button>
            )}
            {problem?.code === 'look-again' && (
              <Button
                variant="outlined"
                sx={gloved}
                disabled={busy}
                onClick={act(() => sendAgain(item, { ...item.body, lookedAgain: true } as Queued['body']))}
              >
                I looked again: it stands so
              </Button>
            )}
            {problem?.code === 'left-open' && (
              <Button
                variant="outlined"
                sx={gloved}
                disabled={busy}
                onClick={act(() => sendAgain(item, { ...item.body, away: true } as Queued['body']))}
              >
                Left all the same
              </Button>
            )}
            {item.kind !== 'note' && (
              <Button sx={gloved} disabled={busy} onClick={act(() => keepAsNote(item))}>
                Keep it as a note
              </Button>
            )}
            {aboutTime && time === null && (
              <Button
                sx={gloved}
                onClick={() => setTime(Date.parse((item.body as { occurredAt: string }).occurredAt))}
              >
                Correct the time
              </Button>
            )}
            <Button color="error" sx={gloved} onClick={() => setLeaving(true)}>
              Leave it out …
            </Button>
          </>
        )}
      </Box>
      {time !== null && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mt: 1, flexWrap: 'wrap' }}>
          <InstantField label="It was at" value={time} zone={item.zone} seconds onChange={setTime} />
          <Button
            variant="contained"
            sx={gloved}
            disabled={busy || !Number.isFinite(time)}
            onClick={act(() =>
              sendAgain(item, {
                ...item.body,
                occurredAt: new Date(time).toISOString(),
              } as Queued['body']),
            )}
          >
            Send with this time
          </Button>
        </Box>
      )}
    </Box>
  );
}
