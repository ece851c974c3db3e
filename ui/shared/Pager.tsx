import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';

/** Turns the pages of a list; nothing where there is only one. */
export function Pager({ page, pages, turn }: { page: number; pages: number; turn: (by: 1 | -1) => void }) {
  if (pages <= 1) return null;
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 2 }}>
      <Button disabled={page <= 1} onClick={() => turn(-1)}>
        Previous page
      </Button>
      <Typography>
        page {page} of {pages}
      </Typography>
      <Button disabled={page >= pages} onClick={() => turn(1)}>
        Next page
      </Button>
    </Box>
  );
}
