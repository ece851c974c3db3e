'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import { RefusedPictures } from '../photograph/RefusedPictures';
import { useSending } from '../photograph/useSending';
import { gloved } from '../shared/theme';

/** Pictures of the terminals before leads come off, kept on this device until they can be sent. */
export function TerminalPicture({ stationId, onTaken }: { stationId: string; onTaken: () => void }) {
  const camera = useRef<HTMLInputElement>(null);
  const [taken, setTaken] = useState(0);
  const sending = useSending(stationId, () => Promise.resolve());
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
      <input
        ref={camera}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Picture of the terminals"
        tabIndex={-1}
        hidden
        onChange={(e) => {
          const files = e.target.files;
          if (files?.length) {
            setTaken((n) => n + files.length);
            sending.add(files, {
              occasion: 'before',
              note: '',
              keepPosition: false,
              planRevision: null,
              shows: {},
            });
          }
          e.target.value = '';
        }}
      />
      <Button variant="contained" sx={gloved} onClick={() => camera.current?.click()}>
        {taken > 0 ? 'Another picture' : 'Picture'}
      </Button>
      <Button sx={gloved} onClick={onTaken}>
        {taken > 0 ? 'Go on' : 'Go on without'}
      </Button>
      <Typography role="status">
        {taken > 0 && `${taken} ${taken === 1 ? 'picture' : 'pictures'} taken`}
      </Typography>
      <RefusedPictures sending={sending} />
    </Box>
  );
}
