'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import type { StandardView } from '@/contract/standards';
import { textFromValues, valuesFromText } from '@/core/procedure/label';
import { procedureOf, proceduresFor } from '@/core/procedure/procedures';
import type { GivenPoint } from '@/core/procedure/procedure';
import { formatValue } from '@/core/quantity/format';
import { quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { DayField } from '../shared/DateFields';
import { numberOf } from '../shared/numberOf';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved, openForm } from '../shared/theme';
import { useView } from '../shared/useView';
import { KitHead } from './KitHead';

/** Buffers, solutions, gases: what their labels say, and until when. */
export function Standards({ initial }: { initial: StandardView[] }) {
  const { data, error, changed } = useView<StandardView[]>('/api/v1/kit/standards', initial);
  const [adding, setAdding] = useState(false);
  const mayKeep = useMay('kit');
  return (
    <>
      <KitHead title="Standards" adds="a standard" isAdding={adding} onAdding={setAdding} />
      {adding && (
        <StandardForm
          onAdded={() => {
            setAdding(false);
            void changed();
          }}
        />
      )}
      <ProblemNote error={error} />
      {data.length === 0 && (
        <Typography>No standard yet. Checks in buffers, solutions and gases need one.</Typography>
      )}
      {quantityCodes
        .filter((q) => data.some((s) => s.quantity === q))
        .map((q) => (
          <Box component="section" key={q} aria-label={quantityOf(q).name} sx={{ mb: 3 }}>
            <Typography variant="h2">{quantityOf(q).name}</Typography>
            {data
              .filter((s) => s.quantity === q)
              .map((s) => (
                <Standard key={s.id} of={s} mayKeep={mayKeep} onChanged={() => void changed()} />
              ))}
          </Box>
        ))}
    </>
  );
}

/** "1413 µS/cm"; "°C → pH: 15 → 6.900, 20 → 6.881". */
function valuesText({ values, quantity }: StandardView): string {
  const { unit } = quantityOf(quantity);
  const digits = Math.max(...values.map((v) => (String(v.value).split('.')[1] ?? '').length));
  const [first] = values;
  if (first?.temperature === null) return `${formatValue(first.value, digits)} ${unit}`;
  return `°C → ${unit}: ${values.map((v) => `${v.temperature} → ${formatValue(v.value, digits)}`).join(', ')}`;
}

function Standard({
  of: s,
  mayKeep,
  onChanged,
}: {
  of: StandardView;
  mayKeep: boolean;
  onChanged: () => void;
}) {
  const { unit } = quantityOf(s.quantity);
  const [reason, setReason] = useState<string | null>(null);
  const retire = useMutation({
    mutationFn: () => send('POST', `/api/v1/kit/standards/${s.id}/retire`, { reason }),
    onSuccess: onChanged,
  });
  return (
    <Box
      component="article"
      sx={{ borderTop: 1, borderColor: 'divider', py: 1.5, display: 'grid', gap: 0.5 }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <StateMark state={s.overdueDays > 0 ? 'displaced' : 'sound'} />
        <b>{s.name}</b> lot {s.lot},{' '}
        {s.overdueDays > 0
          ? `past its end for ${s.overdueDays} d (${s.expiresOn})`
          : `good until ${s.expiresOn}`}
        {s.openedOn && `, opened ${s.openedOn}`}
        <Box sx={{ flexGrow: 1 }} />
        {mayKeep && reason === null && (
          <Button sx={gloved} onClick={() => setReason('')}>
            Put away
          </Button>
        )}
      </Box>
      <Typography color="text.secondary">
        {valuesText(s)}; ±{s.tolerance} {unit}
      </Typography>
      {reason !== null && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <TextField
            size="medium"
            label="Why: used up, spilt, past its end"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            sx={{ flexGrow: 1, maxWidth: 420 }}
          />
          <Button
            variant="contained"
            sx={gloved}
            disabled={!reason.trim() || retire.isPending}
            onClick={() => retire.mutate()}
          >
            Put it away
          </Button>
          <Button sx={gloved} onClick={() => setReason(null)}>
            Keep it
          </Button>
        </Box>
      )}
      <ProblemNote error={retire.error} />
    </Box>
  );
}

/** Quantities that some procedure checks against standards. */
const withStandards = quantityCodes.filter((q) =>
  proceduresFor(q).some((code) => procedureOf(code).against === 'standards'),
);
const usualOf = (quantity: QuantityCode): readonly GivenPoint[] =>
  proceduresFor(quantity).flatMap((code) => {
    const { against, points } = procedureOf(code);
    return against === 'standards' ? points(quantity) : [];
  });

interface Fields {
  quantity: QuantityCode;
  name: string;
  lot: string;
  values: string;
  tolerance: string;
  openedOn: string;
  expiresOn: string;
}

function StandardForm({ onAdded }: { onAdded: () => void }) {
  const form = useForm<Fields>({
    defaultValues: {
      quantity: 'ph',
      name: '',
      lot: '',
      values: '',
      tolerance: '',
      openedOn: '',
      expiresOn: '',
    },
  });
  const quantity = useWatch({ control: form.control, name: 'quantity' });
  const { unit } = quantityOf(quantity);
  const [says, setSays] = useState<string | null>(null);
  const add = useMutation({
    mutationFn: (f: Fields) =>
      send('POST', '/api/v1/kit/standards', {
        standardId: newId(),
        name: f.name,
        quantity: f.quantity,
        lot: f.lot,
        values: valuesFromText(f.values)!,
        tolerance: numberOf(f.tolerance),
        openedOn: f.openedOn || null,
        expiresOn: f.expiresOn,
      }),
    onSuccess: onAdded,
  });
  const save = form.handleSubmit((f) => {
    if (valuesFromText(f.values) === null)
      return setSays('Its values are one number, or a line for each temperature: 20 6.88.');
    if (!(numberOf(f.tolerance) > 0)) return setSays('Its tolerance is a number above 0.');
    if (!f.expiresOn) return setSays('Say until when it is good, as its label does.');
    setSays(null);
    add.mutate(f);
  });
  return (
    <Box component="form" noValidate aria-label="A standard" onSubmit={(e) => void save(e)} sx={openForm}>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Controller
          control={form.control}
          name="quantity"
          render={({ field }) => (
            <TextField {...field} select size="medium" label="A standard of" sx={{ minWidth: 200 }}>
              {withStandards.map((q) => (
                <MenuItem key={q} value={q}>
                  {quantityOf(q).name}
                </MenuItem>
              ))}
            </TextField>
          )}
        />
        {usualOf(quantity).map((p) => (
          <Button
            key={p.key}
            sx={gloved}
            onClick={() => {
              form.setValue('name', p.name);
              form.setValue('values', textFromValues(p.values));
              form.setValue('tolerance', String(p.tolerance));
            }}
          >
            As {p.name}
          </Button>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <Text form={form} name="name" label="Name on its label" width={260} />
        <Text form={form} name="lot" label="Lot" width={150} />
        <Text
          form={form}
          name="values"
          label={`Value, ${unit}; or lines of °C and ${unit}`}
          width={260}
          lines={3}
        />
        <Text form={form} name="tolerance" label={`Good to ±, ${unit}`} width={150} />
        <Controller
          control={form.control}
          name="openedOn"
          render={({ field }) => (
            <DayField large label="Opened" value={field.value} onChange={field.onChange} />
          )}
        />
        <Controller
          control={form.control}
          name="expiresOn"
          render={({ field }) => (
            <DayField large label="Good until" value={field.value} onChange={field.onChange} />
          )}
        />
      </Box>
      {says && <Typography role="alert">{says}</Typography>}
      <ProblemNote error={add.error} />
      <Button
        type="submit"
        variant="contained"
        disabled={add.isPending}
        sx={{ ...gloved, justifySelf: 'start' }}
      >
        Put it into the kit
      </Button>
    </Box>
  );
}

function Text({
  form,
  name,
  label,
  width,
  lines = 1,
}: {
  form: ReturnType<typeof useForm<Fields>>;
  name: keyof Fields;
  label: string;
  width: number;
  lines?: number;
}) {
  return (
    <Controller
      control={form.control}
      name={name}
      render={({ field }) => (
        <TextField
          {...field}
          size="medium"
          label={label}
          multiline={lines > 1}
          minRows={lines}
          sx={{ width }}
          autoComplete="off"
        />
      )}
    />
  );
}
