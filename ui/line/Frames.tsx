import Box from '@mui/material/Box';
import type { BusAnswerView } from '@/contract/busViews';
import { explainFrame, type FramePart } from '@/core/bus/explainFrame';

const arrow = { sent: '→ sent', received: '← received', 'too-late': '← too late' } as const;
const bytesOf = (hex: string) => Uint8Array.from(hex.split(' ').filter(Boolean), (b) => parseInt(b, 16));

/** Stretches of a frame side by side, each with what it is and says. */
export function Parts({ parts }: { parts: readonly FramePart[] }) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
      {parts.map((p, n) => (
        <Box
          key={n}
          sx={{
            border: 1,
            borderColor: 'divider',
            borderRadius: 1,
            px: 0.75,
            py: 0.25,
            bgcolor: 'background.paper',
          }}
        >
          <Box
            sx={{
              fontFamily: '"IBM Plex Mono", monospace',
              fontSize: '0.92rem',
              overflowWrap: 'anywhere',
              whiteSpace: 'pre-wrap',
            }}
          >
            {p.bytes || '—'}
          </Box>
          <Box sx={{ fontSize: '0.8rem' }}>
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {p.name}{' '}
            </Box>
            <b>{p.says}</b>
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Frames as they went over the line, taken apart field by field. */
export function Frames({ frames }: { frames: BusAnswerView['frames'] }) {
  return (
    <>
      {frames.map((f, i) => (
        <Box key={i} sx={{ my: 0.75 }}>
          <Box sx={{ fontSize: '0.86rem', color: 'text.secondary' }}>
            {arrow[f.direction]}
            {f.direction === 'sent' ? '' : ` after ${f.after} ms`}
          </Box>
          <Parts parts={explainFrame(f.direction === 'sent' ? 'sent' : 'received', bytesOf(f.hex))} />
        </Box>
      ))}
    </>
  );
}
