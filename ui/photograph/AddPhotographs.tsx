'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import { occasions, occasionWords, type Occasion, type PhotographsView } from '@/contract/photographs';
import type { HopKind } from '@/core/wiring/hop';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useSending, type Said } from './useSending';

/** What was chosen in the list: "terminal 3 D+", "leads" of a channel, or nothing. */
function showsOf(chosen: string): Said['shows'] {
  const [what = '', ...rest] = chosen.split(' ');
  if (!what) return {};
  if (what === 'terminal') return { terminal: rest.join(' ') };
  return { hop: { channelId: rest[0]!, kind: what as HopKind } };
}

/** Takes pictures with the tablet's camera, from a file, or as they are dropped here. */
export function AddPhotographs({
  stationId,
  planRevision,
  terminals,
  channels,
  onSent,
}: {
  stationId: string;
  planRevision: number | null;
  /** What they can be said to show. */
  terminals: readonly string[];
  channels: PhotographsView['channels'];
  onSent: () => Promise<unknown>;
}) {
  const [occasion, setOccasion] = useState<Occasion>('before');
  const [note, setNote] = useState('');
  const [shows, setShows] = useState('');
  const [keepPosition, setKeepPosition] = useState(false);
  const [over, setOver] = useState(false);
  const camera = useRef<HTMLInputElement>(null);
  const files = useRef<HTMLInputElement>(null);
  const sending = useSending(stationId, onSent);
  const take = (chosen: FileList | null) => {
    if (chosen?.length)
      sending.add(chosen, { occasion, note: note.trim(), keepPosition, planRevision, shows: showsOf(shows) });
  };
  const input = (ref: typeof camera, label: string, capture: boolean) => (
    <input
      ref={ref}
      type="file"
      accept="image/*"
      multiple={!capture}
      {...(capture && { capture: 'environment' })}
      aria-label={label}
      tabIndex={-1}
      hidden
      onChange={(e) => {
        take(e.target.files);
        e.target.value = '';
      }}
    />
  );
  return (
    <Box
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        take(e.dataTransfer.files);
      }}
      sx={{
        border: 2,
        borderStyle: 'dashed',
        borderColor: over ? 'primary.main' : 'divider',
        p: 1.5,
        display: 'grid',
        gap: 1,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <TextField
          select
          label="When"
          value={occasion}
          onChange={(e) => setOccasion(e.target.value as Occasion)}
          sx={{ minWidth: 180 }}
        >
          {occasions.map((o) => (
            <MenuItem key={o} value={o}>
              {occasionWords[o]}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="What it shows, from which side"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
          sx={{ flexGrow: 1, minWidth: 220 }}
        />
        <TextField
          select
          label="Of"
          value={shows}
          onChange={(e) => setShows(e.target.value)}
          sx={{ minWidth: 160 }}
        >
          <MenuItem value="">the station</MenuItem>
          {terminals.map((t) => (
            <MenuItem key={t} value={`terminal ${t}`}>
              terminal {t}
            </MenuItem>
          ))}
          {channels.flatMap((c) =>
            (['element', 'leads', 'input'] as const).map((hop) => (
              <MenuItem key={`${c.id} ${hop}`} value={`${hop} ${c.id}`}>
                {hop} of {c.name}
              </MenuItem>
            )),
          )}
        </TextField>
        {input(camera, 'Picture of the camera', true)}
        {input(files, 'Pictures from files', false)}
        <Button variant="contained" sx={gloved} onClick={() => camera.current?.click()}>
          Take a picture
        </Button>
        <Button sx={gloved} onClick={() => files.current?.click()}>
          Choose files
        </Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
        <FormControlLabel
          control={<Checkbox checked={keepPosition} onChange={(e) => setKeepPosition(e.target.checked)} />}
          label="Keep the position it was taken at"
        />
        <Typography variant="body2" color="text.secondary">
          Or drop pictures here. They are made smaller on the way; what else their files hold is left out.
        </Typography>
      </Box>
      <Box role="status">
        {sending.list
          .filter((s) => s.state !== 'refused')
          .map((s) =>
            s.withoutPosition ? (
              <Alert key={s.id} severity="info" variant="outlined" onClose={() => sending.drop(s.id)}>
                {s.file.name} is kept. Its file does not say where it was taken.
              </Alert>
            ) : (
              <Typography key={s.id} variant="body2">
                {s.file.name}: {s.state === 'sent' ? 'kept' : 'made smaller and sent …'}
              </Typography>
            ),
          )}
      </Box>
      {sending.list
        .filter((s) => s.state === 'refused')
        .map((s) => (
          <ProblemNote key={s.id} error={s.error}>
            <Box sx={{ mt: 1, display: 'flex', gap: 1, flexWrap: 'wrap' }}>
              <Button size="small" disabled={sending.busy} onClick={() => sending.again(s)}>
                Try {s.file.name} again
              </Button>
              <Button size="small" onClick={() => sending.drop(s.id)}>
                Leave it out
              </Button>
            </Box>
          </ProblemNote>
        ))}
    </Box>
  );
}
