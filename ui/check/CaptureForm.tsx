'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { CheckView, LiveView } from '@/contract/views';
import type { TimedValue } from '@/core/check/settling';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import type { QuantityCode } from '@/core/quantity/quantity';
import { unitsLike, type Unit } from '@/core/quantity/unit';
import { newId, Refusal, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { useKeys } from '../shared/useKeys';
import { gloved } from '../shared/theme';

interface Props {
  check: CheckView;
  live: LiveView | null;
  watched: readonly TimedValue[];
  label: string;
  onCaptured: () => void;
}

/** Captures sensor and reference together. A linked reference fills its value in; any other is typed once. */
export function CaptureForm({ check, live, watched, label, onCaptured }: Props) {
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>(check.unit);
  const [temperature, setTemperature] = useState('');
  const [temperatureUnit, setTemperatureUnit] = useState<Unit>('°C');
  const linked = live?.instrument ?? null;
  const capture = useMutation({
    mutationFn: (how: { useLinked: boolean; confirmed: boolean }) => {
      const number = (text: string) =>
        text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.'));
      const reference = how.useLinked
        ? { value: linked!.value!, unit: check.unit }
        : { value: number(value), unit };
      const referenceTemperature = how.useLinked
        ? { value: linked!.temperature ?? Number.NaN, unit: '°C' as const }
        : { value: number(temperature), unit: temperatureUnit };
      return send('POST', `/api/v1/stations/${check.stationId}/checks/${check.id}/readings`, {
        readingId: newId(),
        reference,
        ...(check.needsTemperature && { referenceTemperature }),
        watched: watched.slice(-900),
        occurredAt: new Date().toISOString(),
        ...(how.confirmed && { confirmed: true }),
      });
    },
    onSuccess: () => {
      setValue('');
      setTemperature('');
      onCaptured();
    },
  });
  /** As many digits as the instrument's resolution carries. */
  const shown = (quantity: QuantityCode, v: number) =>
    formatValue(
      v,
      decimalsOf(check.instrument.quantities.find((q) => q.quantity === quantity)?.resolution ?? 0.01),
    );
  const mayUseLink = linked?.value != null && (!check.needsTemperature || linked.temperature != null);
  const problem = capture.error instanceof Refusal ? capture.error.problem : null;
  const asked = Boolean((problem?.extra as { confirm?: boolean } | undefined)?.confirm);
  const meant = (problem?.extra as { meant?: { value: number; unit: Unit } | null } | undefined)?.meant;
  useKeys({
    c: () => {
      if (!capture.isPending && mayUseLink) capture.mutate({ useLinked: true, confirmed: false });
    },
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {mayUseLink && (
        <Button
          variant="contained"
          sx={{ ...gloved, minHeight: 64 }}
          disabled={capture.isPending}
          onClick={() => capture.mutate({ useLinked: true, confirmed: false })}
        >
          {label}: take {shown(check.quantity, linked!.value!)} {check.unit}
          {check.needsTemperature ? ` at ${shown('airTemperature', linked!.temperature!)} °C` : ''} from the
          display
        </Button>
      )}
      <Box
        component="form"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          capture.mutate({ useLinked: false, confirmed: false });
        }}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start' }}
      >
        <NumberWithUnit
          label="Reference reads"
          value={value}
          onValue={setValue}
          unit={unit}
          onUnit={setUnit}
          wrong={problem?.field === 'reference'}
        />
        {check.needsTemperature && (
          <NumberWithUnit
            label="at temperature"
            value={temperature}
            onValue={setTemperature}
            unit={temperatureUnit}
            onUnit={setTemperatureUnit}
            wrong={problem?.field === 'referenceTemperature'}
          />
        )}
        <Button
          type="submit"
          variant={mayUseLink ? 'outlined' : 'contained'}
          sx={gloved}
          disabled={capture.isPending || !value.trim()}
        >
          {mayUseLink ? 'Capture typed' : label}
        </Button>
      </Box>
      <ProblemNote error={capture.error}>
        {asked && (
          <Button
            size="small"
            sx={{ mt: 1, mr: 1 }}
            onClick={() => capture.mutate({ useLinked: !value.trim(), confirmed: true })}
          >
            The display really shows this
          </Button>
        )}
        {meant && (
          <Button
            size="small"
            sx={{ mt: 1 }}
            onClick={() => {
              if (problem?.field === 'referenceTemperature') {
                setTemperature(String(meant.value));
                setTemperatureUnit(meant.unit);
              } else {
                setValue(String(meant.value));
                setUnit(meant.unit);
              }
              capture.reset();
            }}
          >
            Use {meant.value} {meant.unit}
          </Button>
        )}
      </ProblemNote>
    </Box>
  );
}

function NumberWithUnit(p: {
  label: string;
  value: string;
  onValue: (v: string) => void;
  unit: Unit;
  onUnit: (u: Unit) => void;
  wrong: boolean;
}) {
  const units = unitsLike(p.unit);
  return (
    <Box sx={{ display: 'flex' }}>
      <TextField
        size="medium"
        label={p.label}
        value={p.value}
        error={p.wrong}
        onChange={(e) => p.onValue(e.target.value)}
        sx={{ width: 170 }}
        autoComplete="off"
        slotProps={{ htmlInput: { inputMode: 'decimal', style: { fontSize: '1.2rem' } } }}
      />
      <TextField
        select
        size="medium"
        label="Unit"
        value={p.unit}
        onChange={(e) => p.onUnit(e.target.value as Unit)}
        sx={{ width: 96 }}
      >
        {units.map((u) => (
          <MenuItem key={u} value={u} sx={{ minHeight: 48 }}>
            {u}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
