import TextField from '@mui/material/TextField';

/** A number that has a usual value: left empty, that is taken. */
export function UsualField({
  label,
  value,
  usual,
  help,
  onChange,
}: {
  label: string;
  value: string;
  usual: string;
  help?: string;
  onChange: (value: string) => void;
}) {
  return (
    <TextField
      size="medium"
      label={label}
      value={value}
      placeholder={usual}
      onChange={(e) => onChange(e.target.value)}
      helperText={help}
      sx={{ width: 150 }}
      slotProps={{ htmlInput: { inputMode: 'numeric' }, inputLabel: { shrink: true } }}
    />
  );
}
