'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import type { Theme } from '@mui/material/styles';
import Typography from '@mui/material/Typography';
import useMediaQuery from '@mui/material/useMediaQuery';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { VerifyListView } from '@/contract/recordViews';
import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import { standingWords } from '@/core/trust/finding';
import { Pager } from '../shared/Pager';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { useList } from '../shared/useList';
import { useSmallTraces } from '../shared/useSmallTraces';
import { FoldedRow, placeInTrace, stateOf, VerifyRow } from './VerifyRow';

/** Every channel of every site on one list, worst first; one key leads to the place in the trace that matters. */
export function VerifyList({ initial, asked }: { initial: VerifyListView; asked: string }) {
  const router = useRouter();
  const { data, error, params, query, at, pages, change, turn } = useList({
    path: '/verify',
    api: '/api/v1/verify',
    initial,
    asked,
    every: 30_000,
    rowsOf: (list) => list.rows.length,
    idOf: (i) => `row-${i}`,
    open: (i, list) => router.push(placeInTrace(list.rows[i]!)),
  });
  const small = useSmallTraces(data.rows);
  const phone = useMediaQuery((t: Theme) => t.breakpoints.down('md'));
  const [text, setText] = useState(params.get('text') ?? '');
  const word = params.get('word');

  const sort = params.get('sort') ?? 'worst';
  const descending = (params.get('order') ?? (sort === 'name' || sort === 'age' ? 'asc' : 'desc')) === 'desc';
  const header = (key: string, label: string, align: 'left' | 'right' = 'left') => (
    <TableCell align={align} sortDirection={sort === key ? (descending ? 'desc' : 'asc') : false}>
      <TableSortLabel
        active={sort === key}
        direction={sort === key ? (descending ? 'desc' : 'asc') : 'desc'}
        onClick={() => change({ sort: key, order: sort === key ? (descending ? 'asc' : 'desc') : null })}
      >
        {label}
      </TableSortLabel>
    </TableCell>
  );
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 1.5 }}>
        <Typography variant="h1">Verify</Typography>
        <Typography color="text.secondary" sx={{ flexGrow: 1 }}>
          {data.total} {data.total === 1 ? 'channel' : 'channels'},{' '}
          {sort === 'worst' ? 'worst first' : 'sorted'}; gaps and flags over the 30 d up to the newest value
          {data.pending > 0 && `; ${data.pending} stations are still being reckoned`}
        </Typography>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5, alignItems: 'center' }}>
        <TextField
          label="Filter"
          value={text}
          onChange={(e) => {
            setText(e.target.value);
            change({ text: e.target.value });
          }}
          sx={{ width: 200 }}
        />
        <TextField
          select
          label="Quantity"
          value={params.get('quantity') ?? ''}
          onChange={(e) => change({ quantity: e.target.value })}
          sx={{ width: 190 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">all</MenuItem>
          {quantityCodes.map((q) => (
            <MenuItem key={q} value={q}>
              {quantityOf(q).name}
            </MenuItem>
          ))}
        </TextField>
        {standingWords
          .filter((w) => (data.words[w] ?? 0) > 0 || w === word)
          .map((w) => (
            <ToggleButton
              key={w}
              value={w}
              size="small"
              selected={word === w}
              onChange={() =>
                change({ word: new URLSearchParams(window.location.search).get('word') === w ? null : w })
              }
              sx={{ gap: 0.75, textTransform: 'none', py: 0.5 }}
            >
              <StateMark state={stateOf(w)} size={15} /> {w} {data.words[w] ?? 0}
            </ToggleButton>
          ))}
      </Box>
      <ProblemNote error={error} />
      {data.rows.length === 0 && (
        <Typography sx={{ py: 4 }}>
          {query ? 'No channel matches.' : 'No channel yet: connect a sensor, or import a record.'}
        </Typography>
      )}
      {data.rows.length > 0 && phone && (
        <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
          {data.rows.map((r, i) => (
            <FoldedRow
              key={r.channelId}
              row={r}
              trace={small.get(r.channelId)}
              index={i}
              current={i === at}
            />
          ))}
        </Box>
      )}
      {data.rows.length > 0 && !phone && (
        <Box sx={{ overflowX: 'auto' }}>
          <Table
            size="small"
            aria-label="Channels"
            sx={{
              '& td, & th': { px: 0.6 },
              '& th': { whiteSpace: 'nowrap' },
              '& td': { verticalAlign: 'top' },
            }}
          >
            <TableHead>
              <TableRow>
                {header('worst', 'State')}
                {header('name', 'Channel')}
                <TableCell>Why</TableCell>
                <TableCell>Last days</TableCell>
                {header('age', 'Last value', 'right')}
                {header('difference', 'Difference', 'right')}
                {header('missing', 'Missing', 'right')}
                {header('flagged', 'Flagged', 'right')}
                {header('twin', 'Twin', 'right')}
                {header('clock', 'Clock', 'right')}
                <TableCell>Approved</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((r, i) => (
                <VerifyRow
                  key={r.channelId}
                  row={r}
                  trace={small.get(r.channelId)}
                  index={i}
                  current={i === at}
                />
              ))}
            </TableBody>
          </Table>
        </Box>
      )}
      <Pager page={data.page} pages={pages} turn={turn} />
    </>
  );
}
