'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { BenchSensorView, BenchView } from '@/contract/bench';
import { refuseTable, signalTable, signalTableCsv, valueOf } from '@/core/device/signalTable';
import { decimalsOf } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { numberOf } from '../shared/numberOf';
import { saveTextAsFile } from '../shared/saveAsFile';
import { sheet, sheetCell } from '../shared/sheet';

/** So many blocks of a table stand side by side on paper. */
const blocks = 3;
/** Where the field for a step begins: about so many lines. */
const beginLines = 60;

/** The next of 1, 2, 5, 10 … */
function roundStep(least: number): number {
  const decade = 10 ** Math.floor(Math.log10(least));
  return Number(([1, 2, 5, 10].find((n) => n * decade >= least)! * decade).toPrecision(1));
}

/** The resistance table of an installed sensor for the bag, and its reverse: type what the meter shows, read the value. */
export function TableSheet({ view, sensor }: { view: BenchView; sensor: BenchSensorView }) {
  const channel = sensor.channels[0]!;
  const output = sensor.profile.outputs.find((o) => o.key === channel.outputKey)!;
  const [low, high] = output.range;
  const { unit } = quantityOf(output.quantity);
  const [from, setFrom] = useState(String(low));
  const [until, setUntil] = useState(String(high));
  const [step, setStep] = useState(String(roundStep((high - low) / beginLines)));
  const [shown, setShown] = useState('');
  const [f, u, s] = [from, until, step].map(numberOf) as [number, number, number];
  const wrong = refuseTable(output, f, u, s);
  const table = wrong ? null : signalTable(sensor.profile.connection, output, f, u, s);
  const digits = decimalsOf(s);
  const per = table ? Math.ceil(table.rows.length / blocks) : 0;
  const signal = numberOf(shown);
  const found = Number.isFinite(signal) ? valueOf(output, signal, 0) : null;
  const field = (label: string, value: string, set: (v: string) => void, width = 120) => (
    <TextField
      size="medium"
      label={label}
      value={value}
      onChange={(e) => set(e.target.value)}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      sx={{ width, '& input': { minHeight: 24 } }}
    />
  );
  // Five digits of the largest, the same places for all: a column that can be run down with a finger.
  const largest = Math.max(...(table?.rows.map((r) => Math.abs(r.signal)) ?? [1]));
  const places = Math.min(9, Math.max(0, 4 - Math.floor(Math.log10(largest || 1))));
  const number = (v: number) => v.toFixed(places);
  return (
    <Box data-scheme="light" className="sheet" sx={sheet}>
      <Box
        className="screen-only"
        sx={{ display: 'flex', gap: 1, mb: 2, flexWrap: 'wrap', alignItems: 'start' }}
      >
        {field(`From, ${unit}`, from, setFrom)}
        {field(`To, ${unit}`, until, setUntil)}
        {field(`Step, ${unit}`, step, setStep)}
        <Button variant="contained" onClick={() => window.print()} sx={{ minHeight: 52 }} disabled={!table}>
          Print
        </Button>
        <Button
          sx={{ minHeight: 52 }}
          disabled={!table}
          onClick={() =>
            table &&
            saveTextAsFile(`${view.code} ${sensor.serial} table.csv`, signalTableCsv(table, unit), 'text/csv')
          }
        >
          CSV
        </Button>
        <Button
          component={PageLink}
          href={`/stations/${view.stationId}/bench/${sensor.installationId}`}
          sx={{ minHeight: 52 }}
        >
          Back to the bench
        </Button>
      </Box>
      <Box
        className="screen-only"
        sx={{ display: 'flex', gap: 1.5, mb: 2, alignItems: 'center', flexWrap: 'wrap' }}
      >
        {field(`Meter shows, ${table?.signalUnit ?? ''}`, shown, setShown, 210)}
        <Typography role="status" sx={{ fontSize: '1.2rem' }}>
          {!shown.trim()
            ? 'The reverse: type what the meter shows.'
            : found
              ? `${Number(found.value.toPrecision(5))} ${unit}${found.isInRange ? '' : `, outside ${low} to ${high} ${unit}`}`
              : 'No value there: outside what the sensor’s conversion holds for.'}
        </Typography>
      </Box>
      {wrong && <Typography role="alert">{wrong}</Typography>}
      <Typography variant="h1">
        {sensor.serial} · {sensor.zone}
      </Typography>
      <Typography>
        {view.code} {view.name} · {sensor.profile.name} · {table?.says}
      </Typography>
      {table && (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: `repeat(${blocks}, minmax(0, 1fr))` },
            '@media print': { gridTemplateColumns: `repeat(${blocks}, minmax(0, 1fr))` },
            gap: 2,
            mt: 1.5,
          }}
        >
          {Array.from({ length: blocks }, (_, b) => (
            <table key={b} style={{ alignSelf: 'start' }}>
              <thead>
                <tr>
                  {[unit, table.signalUnit, 'band'].map((h) => (
                    <Box component="th" key={h} sx={{ ...sheetCell, fontWeight: 600, textAlign: 'right' }}>
                      {h}
                    </Box>
                  ))}
                </tr>
              </thead>
              <tbody>
                {table.rows.slice(b * per, (b + 1) * per).map((r) => (
                  <tr key={r.value}>
                    {[
                      r.value.toFixed(digits),
                      number(r.signal),
                      `${number(r.band[0])}–${number(r.band[1])}`,
                    ].map((text, i) => (
                      <Box
                        component="td"
                        key={i}
                        sx={{
                          ...sheetCell,
                          textAlign: 'right',
                          whiteSpace: 'nowrap',
                          fontWeight: i === 0 ? 600 : 400,
                        }}
                      >
                        {text}
                      </Box>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
        </Box>
      )}
    </Box>
  );
}
