'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useFieldArray, useForm, useWatch } from 'react-hook-form';
import { useState } from 'react';
import type { MeterView } from '@/contract/bench';
import { meterFunctions, type MeterFunction, type MeterRange } from '@/core/circuit/meter';
import { dialText } from '../bench/texts';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved, openForm } from '../shared/theme';
import { useView } from '../shared/useView';
import { KitHead } from './KitHead';

const functionWords: Readonly<Record<MeterFunction, string>> = {
  ohms: 'Ω',
  'volts-dc': 'V DC',
  'volts-ac': 'V AC',
  milliamps: 'mA',
};

/** Handheld meters: what each position of the dial shows, and how well. */
export function Meters({ initial }: { initial: MeterView[] }) {
  const { data, error, changed } = useView<MeterView[]>('/api/v1/kit/meters', initial);
  const [adding, setAdding] = useState(false);
  return (
    <>
      <KitHead title="Meters" adds="a meter" isAdding={adding} onAdding={setAdding} />
      {adding && (
        <MeterForm
          onAdded={() => {
            setAdding(false);
            void changed();
          }}
        />
      )}
      <ProblemNote error={error} />
      {data.length === 0 && <Typography>No meter yet. A plan on the bench needs one.</Typography>}
      {data.map((m) => (
        <Box component="section" key={m.id} sx={{ borderTop: 1, borderColor: 'divider', py: 1.5 }}>
          <Typography variant="h2">
            {m.name} {m.serial}{' '}
            <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
              {m.model}
            </Box>
          </Typography>
          <Typography color="text.secondary">
            {m.dueOn ? `calibration due ${m.dueOn}` : 'no calibration: its maker’s word is all there is'}
          </Typography>
          <Box component="ul" sx={{ m: 0, p: 0, listStyle: 'none', columns: { md: 2 } }}>
            {m.ranges.map((r) => (
              <li key={`${r.does}${r.upTo}`}>
                <b>{dialText(r)}</b>: step {dialText({ ...r, upTo: r.count })}, ± (
                {Number((100 * r.ofReading).toPrecision(3))} % + {r.counts} counts)
              </li>
            ))}
          </Box>
        </Box>
      ))}
    </>
  );
}

interface Fields {
  name: string;
  model: string;
  serial: string;
  ranges: { does: MeterFunction; upTo: number; count: number; percent: number; counts: number }[];
}

/** In what a position's display counts: k from 1 000 on, M from 1 000 000 on, as its maker prints it. */
const unitFor = ({ does, upTo }: Fields['ranges'][number]): MeterRange['unit'] =>
  does !== 'ohms' ? (upTo < 1 ? 1e-3 : 1) : upTo >= 1e6 ? 1e6 : upTo >= 1e3 ? 1e3 : 1;

function MeterForm({ onAdded }: { onAdded: () => void }) {
  const { register, handleSubmit, control, formState } = useForm<Fields>({
    defaultValues: {
      name: '',
      model: '',
      serial: '',
      // A display of 2 000 counts: what most cheap meters have. Common practice, no source.
      ranges: [
        ...[200, 2000, 20e3, 200e3, 2e6].map((upTo) => ({
          does: 'ohms' as const,
          upTo,
          count: upTo / 2000,
          percent: 0.8,
          counts: 3,
        })),
        ...[2, 20, 200].map((upTo) => ({
          does: 'volts-dc' as const,
          upTo,
          count: upTo / 2000,
          percent: 0.5,
          counts: 2,
        })),
        { does: 'volts-ac', upTo: 200, count: 0.1, percent: 1.2, counts: 5 },
        { does: 'milliamps', upTo: 200, count: 0.1, percent: 1, counts: 3 },
      ],
    },
  });
  const typed = useWatch({ control, name: 'ranges' });
  const { fields, append, remove } = useFieldArray({ control, name: 'ranges' });
  const add = useMutation({
    mutationFn: ({ ranges, ...rest }: Fields) =>
      send('POST', '/api/v1/kit/meters', {
        meterId: newId(),
        ...rest,
        dueOn: null,
        ranges: ranges.map((r) => ({
          does: r.does,
          upTo: r.upTo,
          count: r.count,
          ofReading: r.percent / 100,
          counts: r.counts,
          unit: unitFor(r),
        })),
      }),
    onSuccess: onAdded,
  });
  const text = (name: 'name' | 'model' | 'serial', label: string) => (
    <TextField
      size="medium"
      label={label}
      error={Boolean(formState.errors[name])}
      helperText={formState.errors[name] ? `${label} is missing.` : ' '}
      {...register(name, { required: true })}
    />
  );
  const number = (i: number, name: 'upTo' | 'count' | 'percent' | 'counts', label: string) => (
    <TextField
      type="number"
      label={label}
      sx={{ width: 120 }}
      slotProps={{ htmlInput: { step: 'any' } }}
      {...register(`ranges.${i}.${name}`, { required: true, valueAsNumber: true })}
    />
  );
  return (
    <Box
      component="form"
      aria-label="Add a meter"
      noValidate
      onSubmit={(e) => void handleSubmit((f) => add.mutateAsync(f).catch(() => {}))(e)}
      sx={openForm}
    >
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {text('name', 'Name')}
        {text('model', 'Model')}
        {text('serial', 'Serial number')}
      </Box>
      <Typography variant="h3">Positions of its dial, by its leaflet</Typography>
      {fields.map((f, i) => (
        <Box
          key={f.id}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
          role="group"
          aria-label={`Position ${i + 1}`}
        >
          <TextField
            select
            label="Shows"
            defaultValue={f.does}
            sx={{ width: 110 }}
            {...register(`ranges.${i}.does`)}
          >
            {meterFunctions.map((m) => (
              <MenuItem key={m} value={m}>
                {functionWords[m]}
              </MenuItem>
            ))}
          </TextField>
          {number(i, 'upTo', `Up to, ${functionWords[typed[i]?.does ?? 'ohms'].split(' ')[0]}`)}
          {number(i, 'count', 'One count')}
          {number(i, 'percent', '± % of reading')}
          {number(i, 'counts', '+ counts')}
          <IconButton aria-label={`Leave position ${i + 1} out`} onClick={() => remove(i)}>
            ✕
          </IconButton>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button
          onClick={() => append({ does: 'ohms', upTo: 20e6, count: 10e3, percent: 1.5, counts: 3 })}
          sx={gloved}
        >
          Another position
        </Button>
        <Button type="submit" variant="contained" disabled={add.isPending} sx={gloved}>
          Add to the kit
        </Button>
      </Box>
      <ProblemNote error={add.error} />
    </Box>
  );
}
