'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { ImportStartView } from '@/contract/recordViews';
import { StateMark } from '../shared/stateMark';
import { timeText } from '../shared/time';

const stateText = {
  waiting: 'never sent',
  running: 'running',
  complete: 'wholly there',
  absent: 'wholly absent',
} as const;

/** What was imported here, newest first: each is wholly there or wholly absent, and says which. */
export function ImportList({ start }: { start: ImportStartView }) {
  return (
    <Box sx={{ mt: 4 }}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        Imports so far
      </Typography>
      {start.imports.length === 0 && <Typography>None yet.</Typography>}
      {start.imports.map((i) => (
        <Box
          key={i.id}
          sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', py: 0.75, borderTop: 1, borderColor: 'divider' }}
        >
          <StateMark
            state={i.state === 'complete' ? 'sound' : i.state === 'absent' ? 'displaced' : 'missing'}
          />
          <Box sx={{ color: 'text.secondary' }}>
            {timeText(i.declaredAt, start.zone)} {i.initials}
          </Box>
          <b>{i.fileName}</b>
          <Box>
            {stateText[i.state]}
            {i.message && `: ${i.message}`}
          </Box>
          {(i.refused ?? 0) + (i.conflicting ?? 0) > 0 && (
            <Link href={`/api/v1/stations/${start.stationId}/imports/${i.id}/issues.csv`} download>
              what was not taken
            </Link>
          )}
        </Box>
      ))}
    </Box>
  );
}
