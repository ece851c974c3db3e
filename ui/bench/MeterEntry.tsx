'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { meterReading, type MeterRange } from '@/core/circuit/meter';
import { gloved } from '../shared/theme';
import { dialText, shownText } from './texts';

/** What a meter shows, typed as it shows it, on the position its dial is on. */
export function MeterEntry({
  label,
  ranges,
  preferred,
  isBusy,
  onRead,
}: {
  label: string;
  /** Positions of the dial for this, the lowest first. */
  ranges: readonly MeterRange[];
  preferred: MeterRange | null;
  isBusy: boolean;
  /** Null over the range. */
  onRead: (shows: number | null, typed: string, range: MeterRange) => void;
}) {
  const [range, setRange] = useState<MeterRange | null>(preferred ?? ranges.at(-1) ?? null);
  const [text, setText] = useState('');
  const [asked, setAsked] = useState<readonly number[] | null>(null);
  const [isOver, setOver] = useState(false);
  if (!range) return <Typography>This meter has no position for it. Choose another meter.</Typography>;
  const next = ranges[ranges.indexOf(range) + 1] ?? null;
  const read = text.trim() === '' ? null : meterReading(text, range);
  const clear = () => {
    setText('');
    setAsked(null);
    setOver(false);
  };
  const keep = (shows: number | null) => {
    onRead(shows, text.trim(), range);
    clear();
  };
  return (
    <Box
      component="form"
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault();
        if (!read) return;
        if (read.kind === 'value') keep(read.value);
        else if (read.kind === 'ask') setAsked(read.values);
        else if (next) setOver(true);
        else keep(null);
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mt: 1 }}
    >
      <TextField
        select
        size="medium"
        label="Dial on"
        value={ranges.indexOf(range)}
        onChange={(e) => {
          setRange(ranges[Number(e.target.value)]!);
          setOver(false);
          setAsked(null);
        }}
        sx={{ width: 150 }}
      >
        {ranges.map((r, i) => (
          <MenuItem key={r.upTo} value={i} sx={{ minHeight: 48 }}>
            {dialText(r)}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        size="medium"
        label="Meter shows"
        value={text}
        autoComplete="off"
        error={text.trim() !== '' && read === null}
        helperText={text.trim() !== '' && read === null ? 'As the meter shows it: 8.72 k, 214k, OL.' : ' '}
        onChange={(e) => {
          setText(e.target.value);
          setAsked(null);
          setOver(false);
        }}
        sx={{ width: 170 }}
      />
      <Button type="submit" variant="contained" sx={gloved} disabled={isBusy || !read}>
        Keep it
      </Button>
      {asked && (
        <Box role="alert" sx={{ flexBasis: '100%' }}>
          <Typography>
            “{text.trim()}” is not what this position shows.{' '}
            {asked.length > 1 ? 'Which is it?' : 'Is it this?'}
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            {asked.map((v) => (
              <Button key={v} sx={gloved} onClick={() => keep(v)} disabled={Math.abs(v) > range.upTo}>
                {shownText(v, range)}
              </Button>
            ))}
            <Button sx={gloved} onClick={clear}>
              Read it again
            </Button>
          </Box>
        </Box>
      )}
      {isOver && next && (
        <Box role="alert" sx={{ flexBasis: '100%' }}>
          <Typography>Over the range: go one up.</Typography>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            <Button
              sx={gloved}
              onClick={() => {
                setRange(next);
                clear();
              }}
            >
              Dial to {dialText(next)}
            </Button>
            <Button
              sx={gloved}
              onClick={() => {
                onRead(null, text.trim(), ranges.at(-1)!);
                clear();
              }}
            >
              Over on every position
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}
