import Typography from '@mui/material/Typography';

/** What came of telling a logger something. */
export interface Said {
  readonly state: 'intent' | 'done' | 'failed' | 'unknown';
  readonly says: string | null;
}

/** Says it where it did not come out as meant; what did is seen on the page. */
export function SaidOutcome({ said }: { said: Said | undefined }) {
  if (!said || said.state === 'done') return null;
  return (
    <Typography role="alert" sx={{ color: 'error.main' }}>
      {said.state === 'unknown' ? 'Outcome unknown: ' : 'Not done: '}
      {said.says}
    </Typography>
  );
}
