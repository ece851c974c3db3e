'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { useState } from 'react';
import { convert, invert, refuseConversion } from '@/core/device/conversion';
import { formulas, type Formula } from '@/core/device/formulas';
import { numberOf } from '../check/DisplayReading';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';

const all = formulas as Readonly<Record<string, Formula>>;
const start = (f: Formula) => Object.fromEntries(f.numbers.map((x) => [x.key, String(x.begin)]));

/** Every conversion as a quick sum: both ways, with its formula, its source and what an uncertainty becomes. */
export function Calculator() {
  const [which, setWhich] = useState('callendar-van-dusen');
  const formula = all[which]!;
  const [numbers, setNumbers] = useState(start(formula));
  const [isBack, setBack] = useState(false);
  const [text, setText] = useState(String(formula.begin));
  const [uncertain, setUncertain] = useState('');
  const step = formula.make(Object.fromEntries(Object.entries(numbers).map(([k, v]) => [k, numberOf(v)])));
  const wrong = refuseConversion([step]);
  const value = numberOf(text);
  const of = (x: number) => (isBack ? invert([step], x) : convert([step], x));
  const found = wrong || !Number.isFinite(value) ? Number.NaN : of(value);
  const u = numberOf(uncertain);
  const h = Math.max(Math.abs(value), 1e-6) * 1e-6;
  const means =
    u >= 0 && Number.isFinite(found) ? (Math.abs(of(value + h) - of(value - h)) / (2 * h)) * u : Number.NaN;
  const [from, to] = isBack ? [formula.to, formula.from] : [formula.from, formula.to];
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Quick sums
        </Typography>
        <Button component={NextLink} href="/kit" sx={gloved}>
          Back to the kit
        </Button>
      </Box>
      <Box sx={{ display: 'grid', gap: 1.5, maxWidth: 640 }}>
        <TextField
          select
          size="medium"
          label="Conversion"
          value={which}
          onChange={(e) => {
            const next = all[e.target.value]!;
            setWhich(e.target.value);
            setNumbers(start(next));
            setText(String(next.begin));
            setBack(false);
          }}
        >
          {Object.entries(all).map(([key, f]) => (
            <MenuItem key={key} value={key} sx={{ minHeight: 48 }}>
              {f.name}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {formula.numbers.map((x) => (
            <TextField
              key={x.key}
              size="medium"
              label={x.label}
              value={numbers[x.key] ?? ''}
              error={!Number.isFinite(numberOf(numbers[x.key] ?? ''))}
              onChange={(e) => setNumbers((all) => ({ ...all, [x.key]: e.target.value }))}
              slotProps={{ htmlInput: { inputMode: 'decimal' } }}
              sx={{ width: 190 }}
            />
          ))}
        </Box>
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <TextField
            size="medium"
            label={`Value, ${from}`}
            value={text}
            error={text.trim() !== '' && !Number.isFinite(value)}
            onChange={(e) => setText(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            sx={{ width: 190 }}
          />
          <TextField
            size="medium"
            label={`± of it, ${from}`}
            value={uncertain}
            onChange={(e) => setUncertain(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            sx={{ width: 190 }}
          />
          <Button
            sx={gloved}
            onClick={() => {
              if (Number.isFinite(found)) setText(String(Number(found.toPrecision(7))));
              setBack((b) => !b);
            }}
          >
            {from} → {to}, turn round
          </Button>
        </Box>
        <Box role="status">
          {wrong ? (
            <Typography color="error">These numbers cannot be: {wrong}.</Typography>
          ) : Number.isFinite(found) ? (
            <Typography sx={{ fontSize: '1.6rem', fontWeight: 600 }}>
              {Number(found.toPrecision(6))} {to}
              {Number.isFinite(means) && ` ± ${Number(means.toPrecision(2))} ${to}`}
            </Typography>
          ) : (
            <Typography>No value there: outside what the formula holds for.</Typography>
          )}
        </Box>
        <Typography>
          <Sum>{formula.formula}</Sum>
        </Typography>
        <Typography color="text.secondary">Source: {formula.source}</Typography>
      </Box>
    </>
  );
}
