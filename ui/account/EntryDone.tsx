'use client';

import Button from '@mui/material/Button';
import PageLink from '../shared/PageLink';
import { gloved } from '../shared/theme';
import { EntryFrame } from './EntryFrame';

/** The end of such a page: what came of it, and the way to the sign-in page. */
export function EntryDone({ title, says }: { title: string; says: string }) {
  return (
    <EntryFrame title={title} says={says} onSubmit={(e) => e.preventDefault()}>
      <Button component={PageLink} href="/sign-in" variant="contained" sx={gloved}>
        Sign in
      </Button>
    </EntryFrame>
  );
}
