'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { send } from './api';
import type { useOperation } from './useOperation';

/** How far long work is, and a way to stop it. */
export function OperationProgress({
  operation,
  label,
}: {
  operation: ReturnType<typeof useOperation>;
  label: string;
}) {
  return (
    <Box sx={{ mt: 1 }}>
      <LinearProgress variant="determinate" value={operation.progress * 100} aria-label={label} />
      {operation.message || 'Beginning'}
      <Button
        size="small"
        sx={{ ml: 1 }}
        onClick={() => void send('POST', `/api/v1/operations/${operation.id}/cancel`)}
      >
        Cancel
      </Button>
    </Box>
  );
}
