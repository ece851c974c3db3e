'use client';

import Slider from '@mui/material/Slider';
import { intervalText, usualIntervals } from '@/core/plan/endurance';

/** Tries storage intervals, s, of those that people use. */
export function IntervalSlider({
  value,
  disabled,
  onChange,
}: {
  value: number;
  disabled: boolean;
  onChange: (seconds: number) => void;
}) {
  return (
    <Slider
      value={nearest(value)}
      min={0}
      max={usualIntervals.length - 1}
      step={1}
      disabled={disabled}
      aria-label="Storage interval to try"
      getAriaValueText={(n) => intervalText(usualIntervals[n]!)}
      valueLabelFormat={(n) => intervalText(usualIntervals[n]!)}
      valueLabelDisplay="auto"
      onChange={(_, n) => onChange(usualIntervals[n as number]!)}
      sx={{ flexGrow: 1, minWidth: 200, maxWidth: 520 }}
    />
  );
}

const nearest = (seconds: number): number => {
  const index = usualIntervals.findIndex((s) => s >= seconds);
  return index < 0 ? usualIntervals.length - 1 : index;
};
