'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type { ImportStartView, ImportView } from '@/contract/recordViews';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { endWord, useOperation } from '../shared/useOperation';

const stateText = {
  waiting: 'never sent',
  running: 'running',
  complete: 'wholly there',
  absent: 'wholly absent',
} as const;

/** What was imported here, newest first: each is wholly there or wholly absent, and says which. */
export function ImportList({ start, onChanged }: { start: ImportStartView; onChanged: () => void }) {
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Imports so far
      </Typography>
      {start.imports.length === 0 && <Typography>None yet.</Typography>}
      {start.imports.map((i) => (
        <ImportLine key={i.id} start={start} imported={i} onChanged={onChanged} />
      ))}
    </Box>
  );
}

function ImportLine({
  start,
  imported: i,
  onChanged,
}: {
  start: ImportStartView;
  imported: ImportView;
  onChanged: () => void;
}) {
  const mayImport = useMay('import');
  const [asking, setAsking] = useState(false);
  const path = `/api/v1/stations/${start.stationId}/imports/${i.id}`;
  const back = i.withdrawn !== null;
  const operation = useOperation(onChanged);
  const begin = useMutation({
    mutationFn: (reason: string) =>
      send<OperationView>('POST', `${path}/withdraw`, { operationId: newId(), back, reason }),
    onSuccess: (o) => {
      setAsking(false);
      operation.follow(o.id);
    },
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    begin.mutate(String(new FormData(event.currentTarget).get('reason') ?? ''));
  };
  const whole = i.state === 'complete' && !back;
  return (
    <Box sx={{ py: 0.75, borderTop: 1, borderColor: 'divider' }}>
      <Box sx={{ display: 'flex', columnGap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
        <StateMark state={whole ? 'sound' : i.state === 'absent' ? 'displaced' : 'missing'} />
        <Box sx={{ color: 'text.secondary' }}>
          {timeText(i.declaredAt, start.zone)} {i.initials}
        </Box>
        <b>{i.fileName}</b>
        <Box sx={{ minWidth: 0 }}>
          {back ? (
            <>
              <b>withdrawn</b>, read by nobody: {i.withdrawn}
            </>
          ) : (
            <>
              {stateText[i.state]}
              {i.message && `: ${i.message}`}
            </>
          )}
        </Box>
        {(i.refused ?? 0) + (i.conflicting ?? 0) > 0 && (
          <Link href={`${path}/issues.csv`} download>
            what was not taken
          </Link>
        )}
        {mayImport && i.state === 'complete' && (i.stored ?? 0) > 0 && !asking && !operation.running && (
          <Button size="small" sx={{ minHeight: { xs: 48, sm: 32 } }} onClick={() => setAsking(true)}>
            {back ? 'Bring it back' : 'Withdraw it'}
          </Button>
        )}
      </Box>
      {asking && (
        <Box
          component="form"
          onSubmit={submit}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mt: 1 }}
        >
          <TextField
            name="reason"
            label={back ? 'Why it comes back' : 'Why it is withdrawn'}
            required
            autoFocus
            sx={{ minWidth: 280, flexGrow: 1, maxWidth: 520 }}
            helperText={
              back
                ? 'its values are read again, and tested anew'
                : 'its values stay on file and can be brought back'
            }
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
          <Button type="submit" variant="contained" sx={gloved} disabled={begin.isPending}>
            {back ? 'Bring back' : 'Withdraw'}
          </Button>
          <Button sx={gloved} onClick={() => setAsking(false)}>
            Leave it
          </Button>
        </Box>
      )}
      {operation.running && (
        <Box sx={{ mt: 1, maxWidth: 480 }}>
          <LinearProgress
            variant="determinate"
            value={operation.progress * 100}
            aria-label={`Progress with ${i.fileName}`}
          />
          <Typography variant="body2">{operation.message || 'Beginning'}</Typography>
        </Box>
      )}
      {operation.ended && (
        <Typography variant="body2" role="status">
          {endWord[operation.ended]}: {operation.message}
        </Typography>
      )}
      <ProblemNote error={begin.error} />
    </Box>
  );
}
