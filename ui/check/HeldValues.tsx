'use client';

import Button from '@mui/material/Button';
import { convertible, type Unit } from '@/core/quantity/unit';
import { Age } from '../shared/Age';
import { gloved } from '../shared/theme';
import type { Held } from '../visit/held';

/** Readings that were held at the sensor and fit here, to be taken over without typing them again. */
export function HeldValues({
  held,
  unit,
  onUse,
}: {
  held: readonly Held[];
  unit: Unit;
  onUse: (h: Held) => void;
}) {
  return held
    .filter((h) => convertible(h.unit, unit))
    .map((h) => (
      <Button key={h.id} sx={{ ...gloved, justifySelf: 'start' }} onClick={() => onUse(h)}>
        Use {h.value} {h.unit}
        {h.what && ` (${h.what})`}, held&nbsp;
        <Age at={h.at} />
      </Button>
    ));
}
