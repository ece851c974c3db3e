'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { mostOfList, type BringInList, type HandheldReadingsView } from '@/contract/handheld';
import { readHandheldList, type HandheldList, type HandheldListFault } from '@/core/handheld/handheldList';
import { stampOrderText, type StampOrder } from '@/core/import/stamp';
import { newId, refuseHere, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';

/** A larger file is no list of a handheld, bytes. */
const largestFile = 2_000_000;
const shown = 5;

const isList = (read: HandheldList | HandheldListFault): read is HandheldList => 'values' in read;

/** Why a file is no list, and what to do. */
function faultText(fault: HandheldListFault): string {
  switch (fault.kind) {
    case 'no-table':
      return 'This is no list of readings: a row each, with its time and at least one value, set apart by comma, semicolon or tab.';
    case 'no-quantity':
      return `No column says what it holds (${fault.columns.join(', ')}). Name it with its unit, as in “Temp (°C)”.`;
    case 'ambiguous-time':
      return `“${fault.example}” can be read in several ways: say which.`;
  }
}

/** The list a handheld kept, read here, looked at, then brought in. */
export function BringIn({
  instruments,
  onDone,
}: {
  instruments: HandheldReadingsView['instruments'];
  onDone: () => Promise<void>;
}) {
  const file = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<{ name: string; text: string } | null>(null);
  const [error, setError] = useState<unknown>(null);
  const [instrumentId, setInstrumentId] = useState('');
  const [offset, setOffset] = useState('0');
  const [order, setOrder] = useState<StampOrder | null>(null);
  const hours = Number(offset.replace(',', '.'));
  const offsetIsGood = offset.trim() !== '' && Math.abs(hours) <= 14;
  const read = chosen && offsetIsGood ? readHandheldList(chosen.text, Math.round(hours * 60), order) : null;
  const list = read && isList(read) ? read : null;
  const fault = read && !isList(read) ? read : null;
  const bring = useMutation({
    mutationFn: async ({ name, values }: { name: string } & Pick<HandheldList, 'values'>) => {
      let [added, known] = [0, 0];
      for (let i = 0; i < values.length; i += mostOfList) {
        const body: BringInList = {
          listId: newId(),
          fileName: name.slice(0, 200),
          instrumentId: instrumentId || null,
          readings: values.slice(i, i + mostOfList).map(({ at, quantity, entered, unit, label }) => ({
            readingId: newId(),
            at: new Date(at).toISOString(),
            quantity,
            entered,
            unit,
            label,
          })),
        };
        const said = await send<{ added: number; known: number }>('POST', '/api/v1/handheld-readings', body);
        added += said.added;
        known += said.known;
      }
      return { added, known };
    },
    onSuccess: async () => {
      setChosen(null);
      setOrder(null);
      await onDone();
    },
  });
  const choose = async (picked: File | undefined) => {
    setError(null);
    bring.reset();
    setChosen(null);
    setOrder(null);
    if (!picked) return;
    if (picked.size > largestFile)
      return setError(
        refuseHere(
          'list-too-long',
          'file',
          `${picked.name} has ${(picked.size / 1e6).toFixed(1)} MB; a handheld’s list has up to ${largestFile / 1e6} MB.`,
          'A logger’s record goes in under its station’s Record.',
        ),
      );
    setChosen({ name: picked.name, text: await picked.text() });
  };
  return (
    <Box
      component="section"
      aria-labelledby="bring-in"
      sx={{ border: 1, borderColor: 'divider', bgcolor: 'background.paper', p: 2, mb: 3, maxWidth: 900 }}
    >
      <Typography variant="h2" id="bring-in" sx={{ mb: 1 }}>
        Bring in a handheld’s list
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <TextField
          select
          label="Handheld"
          value={instrumentId}
          onChange={(e) => setInstrumentId(e.target.value)}
          sx={{ minWidth: 220 }}
        >
          <MenuItem value="">not in the kit</MenuItem>
          {instruments.map((i) => (
            <MenuItem key={i.id} value={i.id}>
              {i.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Its clock, hours from UTC"
          value={offset}
          onChange={(e) => setOffset(e.target.value)}
          error={!offsetIsGood}
          helperText={offsetIsGood ? ' ' : 'between −14 and 14'}
          sx={{ width: 210, mt: 3 }}
        />
        <input
          ref={file}
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          aria-label="List of a handheld"
          hidden
          tabIndex={-1}
          onChange={(e) => {
            void choose(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
        <Button sx={gloved} onClick={() => file.current?.click()}>
          Choose its CSV file
        </Button>
      </Box>
      <ProblemNote error={error ?? bring.error} />
      {fault && (
        <Alert severity="warning" variant="outlined" sx={{ color: 'text.primary' }}>
          {faultText(fault)}
          {fault.kind === 'ambiguous-time' && (
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
              {fault.orders.map((o) => (
                <Button key={o} sx={gloved} onClick={() => setOrder(o)}>
                  {stampOrderText[o]}
                </Button>
              ))}
            </Box>
          )}
        </Alert>
      )}
      {list && chosen && (
        <>
          <Typography sx={{ mb: 1 }}>
            <b>{chosen.name}</b>: {list.values.length} readings
            {list.unknown.length > 0 && `; kept as names: ${list.unknown.join(', ')}`}
          </Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {list.values.slice(0, shown).map((v, i) => (
              <li key={i}>
                {timeText(v.at)}: {v.entered} {v.unit} {v.label && `(${v.label})`}
              </li>
            ))}
            {list.values.length > shown && <li>and {list.values.length - shown} more</li>}
          </Box>
          {list.refused.length > 0 && (
            <Alert severity="warning" variant="outlined" sx={{ my: 1, color: 'text.primary' }}>
              Not taken:
              <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
                {list.refused.slice(0, shown).map((r, i) => (
                  <li key={i}>
                    line {r.line}: {r.why}
                  </li>
                ))}
                {list.refused.length > shown && <li>and {list.refused.length - shown} more</li>}
              </Box>
            </Alert>
          )}
          <Button
            variant="contained"
            sx={{ ...gloved, mt: 1 }}
            disabled={list.values.length === 0 || bring.isPending}
            onClick={() => bring.mutate({ name: chosen.name, values: list.values })}
          >
            Bring {list.values.length} readings in
          </Button>
        </>
      )}
      <Typography role="status">
        {bring.data &&
          `${bring.data.added} readings brought in${bring.data.known ? `, ${bring.data.known} known already` : ''}.`}
      </Typography>
    </Box>
  );
}
