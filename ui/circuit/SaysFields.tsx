'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { OwnCircuit } from '@/core/circuit/own';
import { formulas, type Formula } from '@/core/device/formulas';
import type { CsvTable } from '@/core/device/tableCsv';
import { TableFile } from '../calculator/TableFile';
import { numberOf } from '../shared/numberOf';
import type { CircuitInHand } from './useCircuit';

type Says = NonNullable<OwnCircuit['says']>;

/** Ways by which Ω become a quantity. */
const ofOhms = ['callendar-van-dusen', 'steinhart-hart', 'beta', 'linear', 'polynomial'] as const;
const all = formulas as Readonly<Record<string, Formula>>;

/** What the sensing element of a circuit says: by which formula or table its Ω become a quantity. */
export function SaysFields({ inHand }: { inHand: CircuitInHand }) {
  const { says, rows } = inHand.drawn.circuit;
  const sensing = rows.filter((r) => r.kind === 'sensing' && r.id.trim() !== '').map((r) => r.id.trim());
  const [table, setTable] = useState<CsvTable | null>(null);
  const [asks, setAsks] = useState(false);
  const put = (next: Says | null) => inHand.change({ says: next }, 'says');
  const formula = says ? (all[says.conversion.step] ?? null) : null;
  const way = asks || says?.conversion.step === 'table' ? 'table' : (says?.conversion.step ?? 'none');
  if (sensing.length === 0) return null;
  const element = says && sensing.includes(says.element) ? says.element : sensing[0]!;
  const numbersOf = (f: Formula): Record<string, number> =>
    says?.conversion.step === 'polynomial'
      ? {
          ...Object.fromEntries(says.conversion.coefficients.map((c, k) => [`c${k}`, c])),
          low: says.conversion.over[0],
          high: says.conversion.over[1],
        }
      : Object.fromEntries(
          f.numbers.map((x) => [
            x.key,
            Number((says?.conversion as unknown as Record<string, unknown>)[x.key]),
          ]),
        );
  return (
    <Box sx={{ display: 'grid', gap: 1, displayPrint: 'none' }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          select
          size="medium"
          label="What it says"
          value={way}
          onChange={(e) => {
            const f = all[e.target.value];
            setAsks(e.target.value === 'table');
            if (e.target.value === 'none') put(null);
            else if (f)
              put({
                element,
                unit: f.to === 'y' ? '' : f.to,
                conversion: f.make(Object.fromEntries(f.numbers.map((x) => [x.key, x.begin]))),
              });
          }}
          sx={{ minWidth: 250 }}
        >
          <MenuItem value="none">its Ω only</MenuItem>
          {ofOhms.map((key) => (
            <MenuItem key={key} value={key} sx={{ minHeight: 48 }}>
              {all[key]!.name}
            </MenuItem>
          ))}
          <MenuItem value="table">A table from a CSV file</MenuItem>
        </TextField>
        {says && (
          <>
            <TextField
              select
              size="medium"
              label="Of"
              value={element}
              onChange={(e) => put({ ...says, element: e.target.value })}
              sx={{ minWidth: 150 }}
            >
              {sensing.map((id) => (
                <MenuItem key={id} value={id}>
                  {id}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              size="medium"
              label="Unit"
              value={says.unit}
              onChange={(e) => put({ ...says, unit: e.target.value.slice(0, 20) })}
              sx={{ width: 90 }}
            />
          </>
        )}
      </Box>
      {says && formula && !asks && (
        <Numbers
          key={says.conversion.step}
          formula={formula}
          numbers={numbersOf(formula)}
          onNumbers={(n) => put({ ...says, conversion: formula.make(n) })}
        />
      )}
      {way === 'table' && (
        <TableFile
          table={
            table ??
            (says?.conversion.step === 'table' ? { step: says.conversion, from: 'Ω', to: says.unit } : null)
          }
          onRead={(read) => {
            setTable(read);
            if (read) put({ element, unit: read.to.slice(0, 20), conversion: read.step });
          }}
        />
      )}
    </Box>
  );
}

/** The numbers of a formula as they are typed; those that are numbers count at once. */
function Numbers({
  formula,
  numbers,
  onNumbers,
}: {
  formula: Formula;
  numbers: Readonly<Record<string, number>>;
  onNumbers: (numbers: Readonly<Record<string, number>>) => void;
}) {
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>(
    Object.fromEntries(formula.numbers.map((x) => [x.key, String(numbers[x.key] ?? x.begin)])),
  );
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      {formula.numbers.map((x) => {
        const value = typed[x.key] ?? '';
        return (
          <TextField
            key={x.key}
            size="medium"
            label={x.label}
            value={value}
            error={!Number.isFinite(numberOf(value))}
            onChange={(e) => {
              const next = { ...typed, [x.key]: e.target.value };
              setTyped(next);
              const read = Object.fromEntries(Object.entries(next).map(([k, v]) => [k, numberOf(v)]));
              if (Object.values(read).every(Number.isFinite)) onNumbers(read);
            }}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            sx={{ width: 170 }}
          />
        );
      })}
    </Box>
  );
}
