import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';

/** Rows that are not taken, with line, column and reason. */
export function OddRows({
  rows,
  caption,
}: {
  rows: readonly { line: number; column: number | null; text: string; why: string }[];
  caption: string;
}) {
  return (
    <Box
      sx={{ maxHeight: 260, overflow: 'auto', border: 1, borderColor: 'divider' }}
      tabIndex={0}
      role="region"
      aria-label={caption}
    >
      <Typography variant="body2" sx={{ px: 1.25, pt: 0.5, fontWeight: 600 }}>
        {caption}
      </Typography>
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell align="right">Line</TableCell>
            <TableCell align="right">Column</TableCell>
            <TableCell>Why</TableCell>
            <TableCell>The row</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((r, i) => (
            <TableRow key={i}>
              <TableCell align="right">{r.line}</TableCell>
              <TableCell align="right">{r.column ?? '–'}</TableCell>
              <TableCell>{r.why}</TableCell>
              <TableCell
                sx={{
                  fontFamily: '"IBM Plex Mono", monospace',
                  fontSize: '0.8rem',
                  overflowWrap: 'anywhere',
                }}
              >
                {r.text.slice(0, 120)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
