import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useForm, useWatch } from 'react-hook-form';
import type { StationRecordView } from '@/contract/recordViews';
import type { AddDerived } from '@/contract/verifyRequests';
import { formulaCodes, formulaOf, type FormulaCode } from '@/core/derived/formulas';
import { newId, Refusal, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { openForm } from '../shared/theme';

type Fields = { zoneName: string } & Record<`in_${string}` | `set_${string}`, string>;

const capital = (words: string) => words[0]!.toUpperCase() + words.slice(1);

/** Chooses a formula and the channels it takes; what comes out is a channel like any other. */
export function DerivedForm({ record, onDone }: { record: StationRecordView; onDone: () => void }) {
  const { register, handleSubmit, getValues, reset, control } = useForm<Fields & { formula: FormulaCode }>({
    defaultValues: { formula: formulaCodes[0], zoneName: '' } as Fields & { formula: FormulaCode },
  });
  const code = useWatch({ control, name: 'formula' });
  const formula = formulaOf(code);
  const add = useMutation({
    mutationFn: (fields: Fields) => {
      const request: AddDerived = {
        channelId: newId(),
        formula: code,
        zoneName: fields.zoneName.trim(),
        inputs: Object.fromEntries(
          Object.keys(formula.inputs).flatMap((name) => {
            const id = fields[`in_${name}`];
            return id ? [[name, id]] : [];
          }),
        ),
        parameters: Object.fromEntries(
          Object.keys(formula.parameters).map((name) => [
            name,
            Number((fields[`set_${name}`] ?? '').replace(',', '.').replace('−', '-')),
          ]),
        ),
      };
      return send('POST', `/api/v1/stations/${record.stationId}/derived`, request);
    },
    onSuccess: onDone,
  });
  const wrong = add.error instanceof Refusal ? add.error.problem.field : undefined;
  const logged = record.channels.filter((c) => c.source !== 'derived');
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => void handleSubmit((f) => add.mutateAsync(f).catch(() => {}))(e)}
      sx={openForm}
    >
      <Typography variant="h2">Derive a channel</Typography>
      <Typography variant="body2" color="text.secondary">
        {capital(formula.says)}. Reckoned at the stamps its sources have in common, and again whenever they
        change; where a source failed or was off-line it has no value.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <TextField
          select
          label="Formula"
          value={code}
          onChange={(e) => {
            add.reset();
            reset({ formula: e.target.value as FormulaCode, zoneName: getValues('zoneName') } as never);
          }}
          sx={{ width: 220 }}
        >
          {formulaCodes.map((c) => (
            <MenuItem key={c} value={c}>
              {capital(formulaOf(c).name)}
            </MenuItem>
          ))}
        </TextField>
        {Object.entries(formula.inputs).map(([name, { label, quantity, optional }]) => {
          const fit = logged.filter((c) => quantity === null || c.quantity === quantity);
          return (
            <TextField
              key={`${code} ${name}`}
              select
              label={label}
              defaultValue={fit.length === 1 && !optional ? fit[0]!.channelId : ''}
              error={wrong === `inputs.${name}`}
              helperText={fit.length === 0 && !optional ? 'No such channel here.' : undefined}
              slotProps={{ inputLabel: { shrink: true }, select: { displayEmpty: true } }}
              sx={{ width: 260 }}
              {...register(`in_${name}`)}
            >
              {optional && <MenuItem value="">none</MenuItem>}
              {fit.map((c) => (
                <MenuItem key={c.channelId} value={c.channelId}>
                  {c.name}
                </MenuItem>
              ))}
            </TextField>
          );
        })}
        {Object.entries(formula.parameters).map(([name, { label, unit, usual }]) => (
          <TextField
            key={`${code} ${name}`}
            label={`${label}, ${unit}`}
            defaultValue={String(usual)}
            error={wrong === `parameters.${name}`}
            sx={{ width: 300 }}
            {...register(`set_${name}`)}
          />
        ))}
        <TextField
          label="Where, for its name"
          error={wrong === 'zoneName'}
          sx={{ width: 220 }}
          {...register('zoneName')}
        />
        <Button type="submit" variant="contained" disabled={add.isPending} sx={{ height: 40 }}>
          {add.isPending ? 'Reckoning …' : 'Derive it'}
        </Button>
      </Box>
      <ProblemNote error={add.error} />
    </Box>
  );
}
