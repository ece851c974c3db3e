'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import { formulas, type Formula } from '@/core/device/formulas';
import { otherFormulas, type OtherFormula } from '@/core/device/otherFormulas';
import { conversionSum, passedOn, quickSum, type QuickSum } from '@/core/device/quickSum';
import type { CsvTable } from '@/core/device/tableCsv';
import { numberOf } from '../shared/numberOf';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { TableFile } from './TableFile';

type Any = Formula | OtherFormula;
const all: Readonly<Record<string, Any>> = {
  ...(formulas as Readonly<Record<string, Formula>>),
  ...otherFormulas,
};
const start = (f: Any) => Object.fromEntries(f.numbers.map((x) => [x.key, String(x.begin)]));
const first = 'callendar-van-dusen';
/** A table has no formula of its own: it is read from a file. */
const ofTable = 'table';

/** Every conversion as a quick sum: both ways, with its formula, its source and what an uncertainty becomes. */
export function Calculator() {
  const [which, setWhich] = useState(first);
  const formula = all[which] ?? null;
  const [numbers, setNumbers] = useState(() => start(all[first]!));
  const [table, setTable] = useState<CsvTable | null>(null);
  const [begin, setBegin] = useState(() => String(all[first]!.begin));
  const typed = Object.fromEntries(Object.entries(numbers).map(([k, v]) => [k, numberOf(v)]));
  const words = formula
    ? { from: formula.from, to: formula.to, formula: formula.formula, source: formula.source }
    : {
        from: table?.from || 'x',
        to: table?.to || 'y',
        formula: table?.step.log
          ? 'straight between two points over the logarithm of x'
          : 'straight between two points',
        source: 'the file',
      };
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Quick sums
        </Typography>
        <Button component={PageLink} href="/kit" sx={gloved}>
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
            const next = all[e.target.value];
            setWhich(e.target.value);
            setNumbers(next ? start(next) : {});
            setBegin(next ? String(next.begin) : '');
          }}
        >
          {[
            ...Object.entries(all).map(([key, f]) => [key, f.name]),
            [ofTable, 'A table from a CSV file'],
          ].map(([key, name]) => (
            <MenuItem key={key} value={key} sx={{ minHeight: 48 }}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        {formula ? (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            {formula.numbers.map((x) => (
              <TextField
                key={x.key}
                size="medium"
                label={x.label}
                value={numbers[x.key] ?? ''}
                error={!Number.isFinite(numberOf(numbers[x.key] ?? ''))}
                onChange={(e) => setNumbers((before) => ({ ...before, [x.key]: e.target.value }))}
                slotProps={{ htmlInput: { inputMode: 'decimal' } }}
                sx={{ width: 190 }}
              />
            ))}
          </Box>
        ) : (
          <TableFile
            table={table}
            onRead={(read) => {
              setTable(read);
              setBegin(read ? String(read.step.x[Math.floor(read.step.x.length / 2)]) : '');
            }}
          />
        )}
        {(formula || table) && (
          <BothWays
            key={`${which}${begin}`}
            sum={formula ? quickSum(formula, typed) : conversionSum(table!.step)}
            from={words.from}
            to={words.to}
            begin={begin}
          />
        )}
        {(formula || table) && (
          <>
            <Typography>
              <Sum>{words.formula}</Sum>
            </Typography>
            <Typography color="text.secondary">Source: {words.source}</Typography>
          </>
        )}
      </Box>
    </>
  );
}

/** One number in, one number out, with what ± of the first becomes; turned round on a key. */
function BothWays({ sum, from, to, begin }: { sum: QuickSum; from: string; to: string; begin: string }) {
  const [isBack, setBack] = useState(false);
  const [text, setText] = useState(begin);
  const [uncertain, setUncertain] = useState('');
  const value = numberOf(text);
  const of = isBack ? sum.back : sum.of;
  const found = sum.wrong || !Number.isFinite(value) ? Number.NaN : of(value);
  const means = Number.isFinite(found) ? passedOn(of, value, numberOf(uncertain)) : Number.NaN;
  const [one, other] = isBack ? [to, from] : [from, to];
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          size="medium"
          label={`Value, ${one}`}
          value={text}
          error={text.trim() !== '' && !Number.isFinite(value)}
          onChange={(e) => setText(e.target.value)}
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
          sx={{ width: 190 }}
        />
        <TextField
          size="medium"
          label={`± of it, ${one}`}
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
          {one} → {other}, turn round
        </Button>
      </Box>
      <Box role="status">
        {sum.wrong ? (
          <Typography color="error">These numbers cannot be: {sum.wrong}.</Typography>
        ) : Number.isFinite(found) ? (
          <Typography sx={{ fontSize: '1.6rem', fontWeight: 600 }}>
            {Number(found.toPrecision(6))} {other}
            {Number.isFinite(means) && ` ± ${Number(means.toPrecision(2))} ${other}`}
          </Typography>
        ) : (
          <Typography>No value there: outside what the formula holds for.</Typography>
        )}
      </Box>
    </>
  );
}
