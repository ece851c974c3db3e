'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { gloved } from '../shared/theme';

/** Head of a page of the kit: its name, the way back, and for those who keep the kit the form that adds to it. */
export function KitHead({
  title,
  adds,
  isAdding,
  onAdding,
}: {
  title: string;
  /** What is added, in words: "a meter". */
  adds: string;
  isAdding: boolean;
  onAdding: (is: boolean) => void;
}) {
  const mayKeep = useMay('kit');
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 2 }}>
      <Typography variant="h1" sx={{ flexGrow: 1 }}>
        {title}
      </Typography>
      <Button component={PageLink} href="/kit" sx={gloved}>
        Back to the kit
      </Button>
      {mayKeep && (
        <Button variant="contained" onClick={() => onAdding(!isAdding)} sx={gloved}>
          {isAdding ? 'Close the form' : `Add ${adds}`}
        </Button>
      )}
    </Box>
  );
}
