'use client';

import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelVerifyView, TraceSeriesView } from '@/contract/recordViews';

/** Lays twins and neighbours beside the first channel, up to six in all. */
export function Overlay({
  series,
  verify,
  others,
  onChange,
}: {
  series: readonly TraceSeriesView[];
  verify: ChannelVerifyView | null;
  others: readonly string[];
  onChange: (refs: readonly string[]) => void;
}) {
  const twin = verify?.twin ? `${verify.twin.stationId}.${verify.twin.channelId}` : null;
  const free = (verify?.neighbours ?? []).filter((n) => !others.includes(`${n.stationId}.${n.channelId}`));
  return (
    <>
      {twin && !others.includes(twin) && (
        <Button size="small" onClick={() => onChange([...others, twin])} sx={{ minHeight: 40 }}>
          Overlay its twin
        </Button>
      )}
      {free.length > 0 && others.length < 5 && (
        <TextField
          select
          label="Overlay a channel"
          value=""
          sx={{ width: 230 }}
          onChange={(e) => onChange([...others, e.target.value])}
        >
          {free.map((n) => (
            <MenuItem key={n.channelId} value={`${n.stationId}.${n.channelId}`}>
              {n.stationCode} · {n.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {others.map((ref, i) => (
        <Button
          key={ref}
          size="small"
          onClick={() => onChange(others.filter((o) => o !== ref))}
          sx={{ minHeight: 40 }}
        >
          Take off {i + 2} {series[i + 1]?.name}
        </Button>
      ))}
    </>
  );
}
