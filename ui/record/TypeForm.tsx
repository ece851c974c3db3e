import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import type { TypeReadings } from '@/contract/importRequests';
import type { StationRecordView } from '@/contract/recordViews';
import { quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { unitsLike, type Unit } from '@/core/quantity/unit';
import { newId, refuseHere, Refusal, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved, openForm } from '../shared/theme';

interface Fields {
  /** A channel's id, or "new". */
  channel: string;
  quantity: QuantityCode;
  zoneName: string;
  unit: Unit;
  at: number;
  value: string;
}

/** Takes one reading after another of a channel that a person reads off. */
export function TypeForm({ record, onTyped }: { record: StationRecordView; onTyped: () => void }) {
  const typed = record.channels.filter((c) => c.source === 'manual');
  const [openedAt] = useState(() => Math.floor(Date.now() / 60_000) * 60_000);
  const { control, register, handleSubmit, setValue } = useForm<Fields>({
    defaultValues: {
      channel: typed[0]?.channelId ?? 'new',
      quantity: typed[0]?.quantity ?? 'waterLevel',
      zoneName: '',
      unit: quantityOf(typed[0]?.quantity ?? 'waterLevel').unit,
      at: openedAt,
      value: '',
    },
  });
  const chosen = useWatch({ control, name: 'channel' });
  const quantity = useWatch({ control, name: 'quantity' });
  const unit = useWatch({ control, name: 'unit' });
  const [confirmed, setConfirmed] = useState(false);
  const add = useMutation({
    mutationFn: async (f: Fields) => {
      if (!Number.isFinite(f.at))
        throw refuseHere('bad-time', 'at', 'The time is not typed whole.', 'Give day, hour and minute.');
      const value = Number(f.value.trim().replace(',', '.').replace('−', '-'));
      if (f.value.trim() === '' || !Number.isFinite(value))
        throw refuseHere(
          'bad-value',
          'value',
          `"${f.value}" is no number.`,
          'Type the value as it was read, like 3.415.',
        );
      const request: TypeReadings = {
        readingsId: newId(),
        channel:
          f.channel === 'new'
            ? { kind: 'new', quantity: f.quantity, zoneName: f.zoneName.trim() }
            : { kind: 'existing', id: f.channel },
        unit: f.unit,
        readings: [{ at: new Date(f.at).toISOString(), value }],
        ...(confirmed && { confirmed }),
      };
      return send<{ known: number }>('POST', `/api/v1/stations/${record.stationId}/readings`, request);
    },
    onSuccess: () => {
      setValue('value', '');
      setConfirmed(false);
      onTyped();
    },
  });
  const refused = add.error instanceof Refusal ? add.error.problem : null;
  const wrong = (field: string) => refused?.field?.endsWith(field) ?? false;
  const choose = (code: QuantityCode) => {
    setValue('quantity', code);
    setValue('unit', quantityOf(code).unit);
  };
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => void handleSubmit((f) => add.mutateAsync(f).catch(() => {}))(e)}
      sx={openForm}
    >
      <Typography variant="h2">Type a reading</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <Controller
          control={control}
          name="channel"
          render={({ field }) => (
            <TextField
              {...field}
              select
              label="Channel"
              sx={{ width: 240 }}
              onChange={(e) => {
                field.onChange(e);
                const found = typed.find((c) => c.channelId === e.target.value);
                if (found) choose(found.quantity);
              }}
            >
              {typed.map((c) => (
                <MenuItem key={c.channelId} value={c.channelId}>
                  {c.name}
                </MenuItem>
              ))}
              <MenuItem value="new">a new one</MenuItem>
            </TextField>
          )}
        />
        {chosen === 'new' && (
          <>
            <TextField
              select
              label="Quantity"
              value={quantity}
              onChange={(e) => choose(e.target.value as QuantityCode)}
              sx={{ width: 200 }}
            >
              {quantityCodes.map((code) => (
                <MenuItem key={code} value={code}>
                  {quantityOf(code).name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label="Where, for its name"
              error={wrong('zoneName')}
              sx={{ width: 200 }}
              {...register('zoneName')}
            />
          </>
        )}
        <Controller
          control={control}
          name="at"
          render={({ field }) => (
            <InstantField
              label="Read at"
              value={field.value}
              zone={record.zone}
              error={wrong('at')}
              onChange={field.onChange}
            />
          )}
        />
        <TextField
          label="Value"
          error={wrong('value')}
          sx={{ width: 130 }}
          slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off' } }}
          {...register('value')}
        />
        <TextField
          select
          label="Unit"
          value={unit}
          onChange={(e) => setValue('unit', e.target.value as Unit)}
          sx={{ width: 110 }}
        >
          {unitsLike(quantityOf(quantity).unit).map((u) => (
            <MenuItem key={u} value={u}>
              {u}
            </MenuItem>
          ))}
        </TextField>
        <Button type="submit" variant="contained" disabled={add.isPending} sx={gloved}>
          {add.isPending ? 'Storing …' : 'Store it'}
        </Button>
      </Box>
      {(refused?.extra as { confirm?: boolean } | undefined)?.confirm && (
        <FormControlLabel
          control={<Checkbox checked={confirmed} onChange={(_, on) => setConfirmed(on)} />}
          label="It is right as it stands"
        />
      )}
      <ProblemNote error={add.error} />
      {add.isSuccess && (
        <Typography role="status" variant="body2">
          {add.data.known ? 'It stood in the record already.' : 'Stored. A slip is withdrawn under Import.'}
        </Typography>
      )}
    </Box>
  );
}
