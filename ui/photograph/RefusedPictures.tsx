'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { ProblemNote } from '../shared/ProblemNote';
import type { useSending } from './useSending';

/** Pictures that were not taken, each with why, to be tried again or left out. */
export const RefusedPictures = ({ sending }: { sending: ReturnType<typeof useSending> }) =>
  sending.list
    .filter((s) => s.state === 'refused')
    .map((s) => (
      <Box key={s.id} sx={{ order: 1, flexBasis: '100%' }}>
        <ProblemNote error={s.error}>
          <Button size="small" onClick={() => sending.again(s)}>
            Try it again
          </Button>
          <Button size="small" onClick={() => sending.drop(s.id)}>
            Leave it out
          </Button>
        </ProblemNote>
      </Box>
    ));
