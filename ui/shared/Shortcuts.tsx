'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';

const keys: readonly [string, string][] = [
  ['g r', 'go to the Round'],
  ['g b', 'go to the Field book'],
  ['g v', 'go to Verify'],
  ['g k', 'go to the Kit'],
  ['j / k', 'next / previous stop or channel'],
  ['Enter', 'open the stop; the place in the trace that matters'],
  ['n / p', 'next / previous page of a list'],
  ['c', 'capture, in a check'],
  ['← →', 'move the trace by half a window'],
  ['+ −', 'narrow or widen the trace; wheel and drag too'],
  ['s', 'drag chooses a span of the trace (or hold Shift)'],
  ['?', 'this list'],
];

/** Whether a key press belongs to a field and not to us. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.getAttribute('role') === 'combobox');

export function Shortcuts() {
  const [open, setOpen] = useState(false);
  const router = useRouter();
  const pending = useRef(0);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '?') setOpen(true);
      if (event.key === 'g') pending.current = Date.now();
      else if (Date.now() - pending.current < 1200) {
        const to = { r: '/', v: '/verify', b: '/field-book', k: '/kit' }[event.key];
        pending.current = 0;
        if (to) router.push(to);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [router]);
  return (
    <>
      <Button
        color="inherit"
        size="small"
        aria-label="Keyboard shortcuts"
        onClick={() => setOpen(true)}
        sx={{ minWidth: 36, borderColor: 'currentcolor' }}
      >
        ?
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby="shortcuts-title">
        <DialogTitle id="shortcuts-title">Keys</DialogTitle>
        <DialogContent>
          <Table size="small">
            <TableBody>
              {keys.map(([key, what]) => (
                <TableRow key={key}>
                  <TableCell sx={{ fontFamily: '"IBM Plex Mono", monospace', whiteSpace: 'nowrap' }}>
                    {key}
                  </TableCell>
                  <TableCell>{what}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </DialogContent>
      </Dialog>
    </>
  );
}
