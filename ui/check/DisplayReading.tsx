'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import type { TypedSensor } from '@/contract/requests';
import type { CheckView } from '@/contract/views';
import type { Unit } from '@/core/quantity/unit';
import { NumberWithUnit } from './NumberWithUnit';

/** What was typed, as a number; NaN for what is none. A comma is a decimal point. */
export const numberOf = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.'));

/** The sensor's side of a reading as the logger's display shows it, while it is being typed. */
export function useDisplayReading({ unit: own }: CheckView) {
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>(own);
  const [temperature, setTemperature] = useState('');
  const [temperatureUnit, setTemperatureUnit] = useState<Unit>('°C');
  const [stoodStill, setStoodStill] = useState(false);
  return {
    value,
    setValue,
    unit,
    setUnit,
    temperature,
    setTemperature,
    temperatureUnit,
    setTemperatureUnit,
    stoodStill,
    setStoodStill,
    isThere: value.trim() !== '',
    typed: (): TypedSensor => ({
      sensor: { value: numberOf(value), unit },
      ...(temperature.trim() && {
        sensorTemperature: { value: numberOf(temperature), unit: temperatureUnit },
      }),
      stoodStill,
    }),
    clear() {
      setValue('');
      setTemperature('');
    },
  };
}

/** The fields of it, before those of the reference. */
export function DisplayFields({
  check,
  display: d,
  field = '',
}: {
  check: CheckView;
  display: ReturnType<typeof useDisplayReading>;
  /** What was refused last. */
  field?: string | undefined;
}) {
  return (
    <>
      <NumberWithUnit
        label="Logger’s display"
        value={d.value}
        onValue={d.setValue}
        unit={d.unit}
        onUnit={d.setUnit}
        wrong={field.startsWith('typed.sensor') && !field.startsWith('typed.sensorTemperature')}
      />
      {check.needsTemperature && (
        <NumberWithUnit
          label="its temperature"
          value={d.temperature}
          onValue={d.setTemperature}
          unit={d.temperatureUnit}
          onUnit={d.setTemperatureUnit}
          wrong={field.startsWith('typed.sensorTemperature')}
        />
      )}
      <FormControlLabel
        sx={{ minHeight: 48, flexBasis: '100%' }}
        control={<Checkbox checked={d.stoodStill} onChange={(e) => d.setStoodStill(e.target.checked)} />}
        label={`Both stood still for ${check.settleWindow} s`}
      />
    </>
  );
}
