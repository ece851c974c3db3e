'use client';

import Typography from '@mui/material/Typography';
import type { OwnView } from '@/contract/settingViews';

/** What a write does to this logger, said before anybody writes; nothing where it goes on and keeps it. */
export function OnWrite({ own: { restarts, keepsWhenTold } }: { own: OwnView }) {
  if (!restarts && !keepsWhenTold) return null;
  return (
    <Typography variant="body2" sx={{ mb: 1, maxWidth: 760 }}>
      {restarts && (
        <>
          <b>A write starts this logger anew</b>: for about {restarts.seconds} s {restarts.outputs}, and{' '}
          {restarts.channels.length === 0
            ? 'it measures nothing'
            : `channels ${restarts.channels.join(', ')} are off-line, which marks the record by itself`}
          .{' '}
        </>
      )}
      {keepsWhenTold && 'What is written lasts until power-off, unless it is stored for good.'}
    </Typography>
  );
}
