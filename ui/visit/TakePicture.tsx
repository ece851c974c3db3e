'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState, type RefObject } from 'react';
import { occasions, occasionWords, type Occasion } from '@/contract/photographs';
import { RefusedPictures } from '../photograph/RefusedPictures';
import { useSending } from '../photograph/useSending';
import { gloved } from '../shared/theme';

/** A picture in one press: the camera opens, and it is kept without its position. */
export function TakePicture({
  stationId,
  camera,
  onSent,
}: {
  stationId: string;
  /** What opens it, for a key. */
  camera: RefObject<HTMLInputElement | null>;
  onSent: () => Promise<unknown>;
}) {
  const [occasion, setOccasion] = useState<Occasion>('before');
  const sending = useSending(stationId, onSent);
  return (
    <>
      <input
        ref={camera}
        type="file"
        accept="image/*"
        capture="environment"
        aria-label="Picture of the camera"
        tabIndex={-1}
        hidden
        onChange={(e) => {
          if (e.target.files?.length)
            sending.add(e.target.files, {
              occasion,
              note: '',
              keepPosition: false,
              planRevision: null,
              shows: {},
            });
          e.target.value = '';
        }}
      />
      <Button sx={gloved} onClick={() => camera.current?.click()}>
        Picture
      </Button>
      <ToggleButtonGroup
        exclusive
        value={occasion}
        onChange={(_, next: Occasion | null) => next && setOccasion(next)}
        aria-label="What the picture shows"
        sx={{ flexWrap: 'wrap', order: 1 }}
      >
        {occasions.map((o) => (
          <ToggleButton key={o} value={o} sx={{ minHeight: 48, textTransform: 'none' }}>
            {occasionWords[o]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Box role="status" sx={{ order: 1, flexBasis: '100%', '&:empty': { display: 'none' } }}>
        {sending.list
          .filter((s) => s.state === 'waits')
          .map((s) => (
            <Typography key={s.id} variant="body2">
              {s.file.name}: made smaller and kept …
            </Typography>
          ))}
      </Box>
      <RefusedPictures sending={sending} />
    </>
  );
}
