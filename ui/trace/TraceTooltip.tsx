import Box from '@mui/material/Box';
import { flagWord } from '@/core/quality/flag';
import { formatValue } from '@/core/quantity/format';
import type { LayerView } from '@/contract/recordViews';
import { timeText } from '../shared/time';

export interface TooltipRow {
  readonly name: string;
  readonly value: number | readonly [number, number] | null;
}

const layerText = (l: LayerView): string =>
  l.kind === 'flag' && l.flag !== null
    ? `${flagWord[l.flag as keyof typeof flagWord]}: ${l.reason}`
    : `${l.kind}: ${l.reason}`;

/** What stands under the crosshair: the values of every channel, and the layers that lie over the first. */
export function TraceTooltip({
  at,
  zone,
  rows,
  layers,
  unit,
  decimals,
}: {
  at: number;
  zone: string;
  rows: readonly TooltipRow[];
  layers: readonly LayerView[];
  unit: string;
  decimals: number;
}) {
  const over = layers.filter((l) => l.from <= at && at <= (l.until ?? Infinity));
  const text = (value: TooltipRow['value']) =>
    typeof value === 'number'
      ? `${formatValue(value, decimals)} ${unit}`
      : value && value[0] !== value[1]
        ? `${formatValue(value[0], decimals)} … ${formatValue(value[1], decimals)} ${unit}`
        : null;
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'text.secondary',
        px: 1.25,
        py: 0.75,
        fontSize: '0.85rem',
        maxWidth: 360,
      }}
    >
      <Box sx={{ color: 'text.secondary' }}>{timeText(at, zone)}</Box>
      {rows.map((r) => {
        const shown = text(r.value);
        return (
          shown && (
            <Box key={r.name} sx={{ display: 'flex', gap: 2, justifyContent: 'space-between' }}>
              <span>{r.name}</span>
              <b>{shown}</b>
            </Box>
          )
        );
      })}
      {over.slice(0, 4).map((l) => (
        <Box key={l.id} sx={{ borderTop: 1, borderColor: 'divider', mt: 0.5, pt: 0.5 }}>
          {layerText(l)}
        </Box>
      ))}
      {over.length > 4 && <Box sx={{ color: 'text.secondary' }}>and {over.length - 4} more layers</Box>}
    </Box>
  );
}
