'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TableSortLabel from '@mui/material/TableSortLabel';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { VerifyListView, VerifyRowView } from '@/contract/recordViews';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import { standingWords, type StandingWord } from '@/core/trust/finding';
import { Age } from '../shared/Age';
import { Pager } from '../shared/Pager';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { useList } from '../shared/useList';

const dayMs = 86_400_000;

/** Where in the trace a row leads: about the place that matters, or the newest week. */
export function placeInTrace(r: VerifyRowView): string {
  const newest = r.lastAt ? Date.parse(r.lastAt) : Date.now();
  const [from, until] =
    r.placeAt === null ? [newest - 7 * dayMs, newest] : [r.placeAt - dayMs, r.placeAt + 2 * dayMs];
  return `/stations/${r.stationId}/trace/${r.channelId}?from=${new Date(from).toISOString()}&until=${new Date(until).toISOString()}`;
}

const stateOf = (word: StandingWord) =>
  word === 'good'
    ? 'sound'
    : ['unchecked', 'empty', 'unused', 'not set up'].includes(word)
      ? 'missing'
      : 'displaced';

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
      {data.rows.length > 0 && (
        <Box sx={{ overflowX: 'auto' }}>
          <Table
            size="small"
            aria-label="Channels"
            sx={{ '& td, & th': { px: 1 }, '& td': { verticalAlign: 'top' } }}
          >
            <TableHead>
              <TableRow>
                {header('worst', 'State')}
                {header('name', 'Channel')}
                <TableCell>Why</TableCell>
                {header('age', 'Last value', 'right')}
                {header('difference', 'Last difference', 'right')}
                {header('missing', 'Missing', 'right')}
                {header('flagged', 'Flagged', 'right')}
                {header('twin', 'Twin', 'right')}
                {header('clock', 'Clock', 'right')}
                <TableCell>Approved</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {data.rows.map((r, i) => (
                <Row key={r.channelId} row={r} index={i} current={i === at} />
              ))}
            </TableBody>
          </Table>
        </Box>
      )}
      <Pager page={data.page} pages={pages} turn={turn} />
    </>
  );
}

function Row({ row: r, index, current }: { row: VerifyRowView; index: number; current: boolean }) {
  const beyond = (value: number | null, limit: number | null) =>
    value !== null && limit !== null && Math.abs(value) > limit;
  const d = r.decimals;
  return (
    <TableRow
      id={`row-${index}`}
      sx={{ bgcolor: current ? 'ground.skyWash' : undefined }}
      aria-current={current || undefined}
    >
      <TableCell sx={{ whiteSpace: 'nowrap' }}>
        <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
          <StateMark state={stateOf(r.word)} />
          <b>{r.word}</b>
        </Box>
      </TableCell>
      <TableCell sx={{ minWidth: 210 }}>
        <Link component={NextLink} href={placeInTrace(r)} sx={{ color: 'text.primary', fontWeight: 600 }}>
          {r.name}
        </Link>
        <Box sx={{ color: 'text.secondary', fontSize: '0.82rem', whiteSpace: 'nowrap' }}>
          {r.stationCode} · {r.site}
        </Box>
      </TableCell>
      <TableCell sx={{ minWidth: 180 }}>{r.reason}</TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {formatValue(r.lastValue, d)} {r.lastValue !== null && r.unit}
        <Box sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
          {r.lastAt ? <Age at={r.lastAt} /> : 'never'}
        </Box>
      </TableCell>
      <TableCell
        align="right"
        sx={{ whiteSpace: 'nowrap', fontWeight: beyond(r.difference, r.differenceLimit) ? 700 : 400 }}
      >
        {r.difference === null ? (
          '–'
        ) : (
          <>
            {formatDifference(r.difference, d)}
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {' '}
              of ±{formatValue(r.differenceLimit, d)}
            </Box>
          </>
        )}
      </TableCell>
      <TableCell align="right">{r.missing || '–'}</TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {r.failed + r.suspect === 0 && '–'}
        {r.failed > 0 && <div>{r.failed} failed</div>}
        {r.suspect > 0 && <div>{r.suspect} suspect</div>}
      </TableCell>
      <TableCell
        align="right"
        sx={{ whiteSpace: 'nowrap', fontWeight: beyond(r.twinDifference, r.twinLimit) ? 700 : 400 }}
      >
        {r.twinDifference === null
          ? '–'
          : `${formatDifference(r.twinDifference, d)} of ±${formatValue(r.twinLimit, d)}`}
      </TableCell>
      <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
        {r.clockDifference === null ? '–' : `${formatDifference(r.clockDifference, 0)} s`}
      </TableCell>
      <TableCell sx={{ fontSize: '0.85rem' }}>
        {r.approved ? (
          <>
            {r.approved.initials}, until {r.approved.until.slice(0, 10)}
            {r.approved.reopened && (
              <Box sx={{ fontWeight: 600 }} title={r.approved.reopened}>
                reopened
              </Box>
            )}
          </>
        ) : (
          '–'
        )}
      </TableCell>
    </TableRow>
  );
}
