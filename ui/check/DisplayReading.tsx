'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useState } from 'react';
import type { TypedSensor } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import { procedureOf } from '@/core/procedure/procedures';
import type { Unit } from '@/core/quantity/unit';
import { numberOf } from '../shared/numberOf';
import { NumberWithUnit } from './NumberWithUnit';

/** The sensor's side of a reading as the logger's display shows it, while it is being typed. */
export function useDisplayReading({ unit: own }: CheckView) {
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>(own);
  const [stoodStill, setStoodStill] = useState(false);
  return {
    value,
    setValue,
    unit,
    setUnit,
    stoodStill,
    setStoodStill,
    isThere: value.trim() !== '',
    typed: (): TypedSensor => ({ sensor: { value: numberOf(value), unit }, stoodStill }),
    clear: () => setValue(''),
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
  const { window, isTyped } = procedureOf(check.plan.procedure);
  return (
    <>
      <NumberWithUnit
        label={isTyped ? 'Logger counted' : window === null ? 'Logger’s display' : 'Average it held'}
        value={d.value}
        onValue={d.setValue}
        unit={d.unit}
        onUnit={d.setUnit}
        wrong={field.startsWith('typed.sensor')}
      />
      <FormControlLabel
        sx={{ minHeight: 48, flexBasis: '100%' }}
        control={<Checkbox checked={d.stoodStill} onChange={(e) => d.setStoodStill(e.target.checked)} />}
        label={
          isTyped
            ? 'The last tip had fallen'
            : window === null
              ? `Both stood still for ${check.plan.settleWindow} s`
              : `Goods flowed and covered the probe over the whole ${window} s`
        }
      />
    </>
  );
}
