'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { refuseConversion } from '@/core/device/conversion';
import { tableOfCsv, type CsvFault, type CsvTable } from '@/core/device/tableCsv';
import { gloved } from '../shared/theme';

/** A table of a sensor from a CSV file, or pasted: read at once, or what is wrong with it. */
export function TableFile({
  table,
  onRead,
}: {
  table: CsvTable | null;
  onRead: (table: CsvTable | null) => void;
}) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<CsvFault | null>(null);
  const read = (csv: string) => {
    setText(csv);
    const found = csv.trim() === '' ? null : tableOfCsv(csv);
    setFault(found && 'says' in found ? found : null);
    onRead(found && !('says' in found) ? found : null);
  };
  const byLog = table && { ...table, step: { ...table.step, log: !table.step.log } };
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box>
        <Button component="label" variant="outlined" sx={gloved}>
          Open a CSV file
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            aria-label="CSV file"
            hidden
            onChange={(e) => {
              void e.target.files?.[0]?.text().then(read);
              e.target.value = '';
            }}
          />
        </Button>
      </Box>
      <TextField
        multiline
        minRows={2}
        maxRows={8}
        size="medium"
        label="or paste it here: what it says, what the meter sees"
        placeholder={'°C,Ω\n0,32650\n25,10000\n50,3603'}
        value={text}
        error={fault !== null}
        onChange={(e) => read(e.target.value)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      {fault && (
        <Typography role="alert" color="error">
          {fault.says} {fault.remedy}
        </Typography>
      )}
      {table && (
        <Typography>
          {table.step.x.length} points: {table.step.x[0]} … {table.step.x.at(-1)} {table.from} is{' '}
          {table.step.y[0]} … {table.step.y.at(-1)} {table.to}. Beyond its ends it says nothing.
        </Typography>
      )}
      {table && byLog && (
        <FormControlLabel
          control={
            <Checkbox
              checked={table.step.log ?? false}
              disabled={refuseConversion([byLog.step]) !== null}
              onChange={() => onRead(byLog)}
            />
          }
          label="Straight over the logarithm, as a thermistor is"
        />
      )}
    </Box>
  );
}
