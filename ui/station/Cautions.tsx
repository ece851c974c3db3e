import Alert from '@mui/material/Alert';

/** What a station warns of, wherever hands go near it. */
export function Cautions({ cautions }: { cautions: readonly string[] }) {
  return (
    <>
      {cautions.map((c) => (
        <Alert key={c} severity="warning" variant="outlined" sx={{ my: 1, color: 'text.primary' }}>
          {c} Local codes and licensed practice come first.
        </Alert>
      ))}
    </>
  );
}
