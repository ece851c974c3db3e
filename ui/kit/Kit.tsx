'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { Controller, useForm } from 'react-hook-form';
import { useState } from 'react';
import type { InstrumentView } from '@/contract/checkViews';
import { decimalsOf, formatDifference, formatValue } from '@/core/quantity/format';
import { inSentence, quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { load, newId, send } from '../shared/api';
import { DayField } from '../shared/DateFields';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';

/** Reference instruments: what they measure, how well, and until when that can be believed. */
export function Kit({ initial }: { initial: InstrumentView[] }) {
  const { data, error, refetch } = useQuery({
    queryKey: ['kit'],
    queryFn: () => load<InstrumentView[]>('/api/v1/kit'),
    initialData: initial,
  });
  const [adding, setAdding] = useState(false);
  const mayKeep = useMay('kit');
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          Kit
        </Typography>
        <Button component={PageLink} href="/kit/calculator" sx={gloved}>
          Quick sums
        </Button>
        <Button component={PageLink} href="/kit/circuits" sx={gloved}>
          Circuits
        </Button>
        <Button component={PageLink} href="/kit/standards" sx={gloved}>
          Standards
        </Button>
        <Button component={PageLink} href="/kit/meters" sx={gloved}>
          Meters
        </Button>
        <Button component={PageLink} href="/kit/methods" sx={gloved}>
          Methods and persons
        </Button>
        <Button component={PageLink} href="/kit/readings" sx={gloved}>
          Readings of handhelds
        </Button>
        {mayKeep && (
          <Button variant="contained" onClick={() => setAdding((a) => !a)} sx={gloved}>
            {adding ? 'Close the form' : 'Add an instrument'}
          </Button>
        )}
      </Box>
      {adding && (
        <InstrumentForm
          onAdded={() => {
            setAdding(false);
            void refetch();
          }}
        />
      )}
      <ProblemNote error={error} />
      {data.length === 0 && <Typography>No reference instrument yet. A check needs one.</Typography>}
      <InstrumentBlocks instruments={data} />
      <Box sx={{ overflowX: 'auto', display: { xs: 'none', md: 'block' } }}>
        <Table>
          <TableHead>
            <TableRow>
              <TableCell>Instrument</TableCell>
              <TableCell>Serial number</TableCell>
              <TableCell>Calibration</TableCell>
              <TableCell>Measures</TableCell>
              <TableCell align="right">Tolerance</TableCell>
              <TableCell align="right">Resolution</TableCell>
              <TableCell align="right">Range</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {data.flatMap((i) =>
              i.quantities.map((m, n) => {
                const q = quantityOf(m.quantity);
                const d = decimalsOf(m.resolution);
                return (
                  <TableRow key={`${i.id}${m.quantity}`}>
                    {n === 0 && (
                      <>
                        <TableCell rowSpan={i.quantities.length}>
                          <Link component={PageLink} href={`/kit/instruments/${i.id}`}>
                            {i.name}
                          </Link>
                          <Box sx={{ color: 'text.secondary' }}>{i.model}</Box>
                        </TableCell>
                        <TableCell rowSpan={i.quantities.length}>{i.serial}</TableCell>
                        <TableCell rowSpan={i.quantities.length}>
                          <Calibration of={i} />
                        </TableCell>
                      </>
                    )}
                    <TableCell>{q.name}</TableCell>
                    <TableCell align="right">
                      ±{m.tolerance} {q.unit}
                    </TableCell>
                    <TableCell align="right">
                      {m.resolution} {q.unit}
                    </TableCell>
                    <TableCell align="right">
                      {formatValue(m.low, d)} … {formatValue(m.high, d)} {q.unit}
                    </TableCell>
                  </TableRow>
                );
              }),
            )}
          </TableBody>
        </Table>
      </Box>
    </>
  );
}

type Instrument = InstrumentView;

const Calibration = ({ of: i }: { of: Instrument }) => (
  <>
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <StateMark state={i.overdueDays > 0 ? 'displaced' : 'sound'} />
      {i.overdueDays > 0 ? `out of date for ${i.overdueDays} d (${i.dueOn})` : `in date until ${i.dueOn}`}
    </Box>
    {i.foundOff.map(({ quantity, by, foundOn }) => (
      <Box key={`${quantity} ${foundOn}`} sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark state="displaced" />
        <Link component={PageLink} href={`/kit/instruments/${i.id}`}>
          found off on {foundOn}: {inSentence(quantity)} {formatDifference(by, quantityOf(quantity).decimals)}{' '}
          {quantityOf(quantity).unit}
        </Link>
      </Box>
    ))}
    <Box sx={{ color: 'text.secondary' }}>
      calibrated {i.calibratedOn}
      {i.linked ? ' · linked display' : ''}
    </Box>
  </>
);

/** The same where a table has no room. */
const InstrumentBlocks = ({ instruments }: { instruments: readonly Instrument[] }) => (
  <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, display: { md: 'none' } }}>
    {instruments.map((i) => (
      <Box component="li" key={i.id} sx={{ py: 1.5, borderTop: 1, borderColor: 'divider' }}>
        <Link component={PageLink} href={`/kit/instruments/${i.id}`}>
          {i.name}
        </Link>{' '}
        {i.serial}{' '}
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {i.model}
        </Box>
        <Calibration of={i} />
        {i.quantities.map((m) => {
          const { name, unit } = quantityOf(m.quantity);
          const d = decimalsOf(m.resolution);
          return (
            <div key={m.quantity}>
              {name} ±{m.tolerance} {unit}, step {m.resolution}, {formatValue(m.low, d)} …{' '}
              {formatValue(m.high, d)} {unit}
            </div>
          );
        })}
      </Box>
    ))}
  </Box>
);

interface Fields {
  name: string;
  model: string;
  serial: string;
  calibratedOn: string;
  dueOn: string;
  quantity: QuantityCode;
  tolerance: number;
  resolution: number;
  low: number;
  high: number;
}

function InstrumentForm({ onAdded }: { onAdded: () => void }) {
  const { register, handleSubmit, formState, control } = useForm<Fields>({
    defaultValues: { quantity: 'humidity', calibratedOn: '', dueOn: '' },
  });
  const add = useMutation({
    mutationFn: ({ quantity, tolerance, resolution, low, high, ...rest }: Fields) =>
      send('POST', '/api/v1/kit', {
        instrumentId: newId(),
        ...rest,
        quantities: [{ quantity, tolerance, resolution, low, high }],
      }),
    onSuccess: onAdded,
  });
  const text = (name: keyof Fields, label: string, type = 'text') => (
    <TextField
      label={label}
      type={type}
      error={Boolean(formState.errors[name])}
      helperText={formState.errors[name] ? `${label} is missing.` : ' '}
      slotProps={{
        htmlInput: type === 'number' ? { step: 'any' } : {},
      }}
      {...register(name, { required: true, ...(type === 'number' && { valueAsNumber: true }) })}
    />
  );
  const day = (name: 'calibratedOn' | 'dueOn', label: string) => (
    <Controller
      name={name}
      control={control}
      rules={{ required: true }}
      render={({ field, fieldState }) => (
        <DayField
          label={label}
          value={field.value}
          onChange={field.onChange}
          error={fieldState.invalid}
          helperText={fieldState.invalid ? `${label} is missing.` : ' '}
        />
      )}
    />
  );
  return (
    <Box
      component="form"
      onSubmit={(e) => void handleSubmit((f) => add.mutateAsync(f).catch(() => {}))(e)}
      noValidate
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fill, minmax(200px, 1fr))',
        alignItems: 'start',
        columnGap: 1.5,
        rowGap: 0.5,
        mb: 3,
        p: 2,
        border: 1,
        borderColor: 'divider',
      }}
    >
      {text('name', 'Name')}
      {text('model', 'Model')}
      {text('serial', 'Serial number')}
      {day('calibratedOn', 'Calibrated on')}
      {day('dueOn', 'Due on')}
      <TextField select label="Measures" defaultValue="humidity" helperText=" " {...register('quantity')}>
        {quantityCodes.map((c) => (
          <MenuItem key={c} value={c}>
            {quantityOf(c).name}
          </MenuItem>
        ))}
      </TextField>
      {text('tolerance', 'Tolerance ±', 'number')}
      {text('resolution', 'Resolution', 'number')}
      {text('low', 'Range from', 'number')}
      {text('high', 'Range to', 'number')}
      <Button type="submit" variant="contained" disabled={add.isPending} sx={gloved}>
        Add to the kit
      </Button>
      <Box sx={{ gridColumn: '1 / -1' }}>
        <ProblemNote error={add.error} />
      </Box>
    </Box>
  );
}
