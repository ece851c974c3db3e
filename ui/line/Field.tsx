import Box from '@mui/material/Box';
import { NumberField } from '../shared/NumberField';

/** One number of a question, narrow beside its fellows. */
export function Field({
  width = 112,
  ...props
}: {
  label: string;
  value: number | null;
  low: number;
  high: number;
  width?: number;
  onChange: (n: number | null) => void;
}) {
  return (
    <Box sx={{ width }}>
      <NumberField {...props} empty={false} />
    </Box>
  );
}
