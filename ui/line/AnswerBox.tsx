import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { BusWriteView } from '@/contract/busViews';
import { StateMark } from '../shared/stateMark';

/** What came of talking: in a word and a shape, with what went over the line below. */
export function AnswerBox({
  good,
  state,
  says,
  children,
}: {
  good: boolean;
  state?: BusWriteView['state'];
  says: string;
  children?: ReactNode;
}) {
  return (
    <Box
      role="status"
      sx={{ pl: 2, my: 1, borderLeft: 4, borderColor: good ? 'secondary.main' : 'error.main' }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark state={good ? 'sound' : 'displaced'} />
        <b>
          {state === 'unknown' && 'Outcome unknown: '}
          {says}
        </b>
      </Box>
      {children}
    </Box>
  );
}
