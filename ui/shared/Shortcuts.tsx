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
import { useRef, useState } from 'react';
import { useKeys } from './useKeys';

const keys: readonly [string, string][] = [
  ['g r', 'go to the Round'],
  ['g b', 'go to the Field book'],
  ['g v', 'go to Verify'],
  ['g k', 'go to the Kit'],
  ['j / k', 'next / previous stop or channel'],
  ['Enter', 'open the stop; the place in the trace that matters'],
  ['n / p', 'next / previous page of a list'],
  ['c', 'capture, in a check'],
  ['n', 'close what agrees and go to the next zone'],
  ['n', 'now, at a reading of a level'],
  ['Ctrl+Z / Ctrl+Shift+Z', 'undo / redo, of a plan or a curve'],
  ['t / n / p', 'stamp this moment / write a note / take a picture, on a visit'],
  ['← →', 'move the trace by half a window'],
  ['+ −', 'narrow or widen the trace; wheel and drag too'],
  ['s', 'drag chooses a span of the trace (or hold Shift)'],
  ['?', 'this list'],
];

const places: Readonly<Record<string, string>> = { r: '/', v: '/verify', b: '/field-book', k: '/kit' };

export function Shortcuts() {
  const [open, setOpen] = useState(false);
  const router = useRouter();
  const pending = useRef(0);
  const goTo = (key: string) => () => {
    if (Date.now() - pending.current < 1200) router.push(places[key]!);
    pending.current = 0;
  };
  useKeys({
    '?': () => setOpen(true),
    g: () => void (pending.current = Date.now()),
    ...Object.fromEntries(Object.keys(places).map((key) => [key, goTo(key)])),
  });
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
