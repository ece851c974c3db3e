'use client';

import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { emptyRow, mostOwnRows, nodesOf, type OwnRow } from '@/core/circuit/own';
import { gloved } from '../shared/theme';
import type { CircuitInHand } from './useCircuit';

const kinds: readonly { readonly kind: OwnRow['kind']; readonly says: string }[] = [
  { kind: 'fixed', says: 'fixed' },
  { kind: 'sensing', says: 'sensing' },
  { kind: 'lead', says: 'lead' },
  { kind: 'link', says: 'link' },
];

/** The elements of a circuit, a line each: what it is, between which points, how large. */
export function ElementTable({ inHand, faulty }: { inHand: CircuitInHand; faulty: readonly string[] }) {
  const { circuit } = inHand.drawn;
  const { rows } = circuit;
  const put = (i: number, more: Partial<OwnRow>, what: string) =>
    inHand.change({ rows: rows.map((r, k) => (k === i ? { ...r, ...more } : r)) }, `${what} ${i}`);
  const cell = (
    i: number,
    key: 'id' | 'from' | 'to' | 'ohms' | 'tolerance' | 'low' | 'high',
    label: string,
    width: number,
  ) => (
    <TextField
      size="small"
      value={rows[i]![key]}
      onChange={(e) => put(i, { [key]: e.target.value }, key)}
      slotProps={{
        htmlInput: {
          'aria-label': `${label}, line ${i + 1}`,
          maxLength: key === 'tolerance' ? 12 : key === 'id' || key === 'from' || key === 'to' ? 40 : 20,
          autoComplete: 'off',
          ...((key === 'from' || key === 'to') && { list: 'points-of-circuit' }),
        },
      }}
      sx={{ width }}
    />
  );
  return (
    <Box sx={{ displayPrint: 'none' }}>
      <datalist id="points-of-circuit">
        {nodesOf(circuit).map((n) => (
          <option key={n} value={n} />
        ))}
      </datalist>
      <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="Elements">
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            '& td, & th': {
              p: '3px 6px 3px 0',
              textAlign: 'left',
              whiteSpace: 'nowrap',
              verticalAlign: 'top',
            },
          }}
        >
          <thead>
            <tr>
              <th>Name</th>
              <th>What it is</th>
              <th>From</th>
              <th>To</th>
              <th>Ω, and over its range</th>
              <th>± %</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <Box
                component="tr"
                key={i}
                sx={
                  faulty.includes(row.id.trim())
                    ? { outline: '2px solid', outlineColor: 'error.main' }
                    : undefined
                }
              >
                <td>{cell(i, 'id', 'Name', 122)}</td>
                <td>
                  <TextField
                    select
                    size="small"
                    value={row.kind}
                    onChange={(e) => {
                      const kind = e.target.value as OwnRow['kind'];
                      put(
                        i,
                        {
                          kind,
                          ...(kind === 'link' && { ohms: 'closed', tolerance: '' }),
                          ...(row.kind === 'link' && { ohms: '' }),
                          ...(kind !== 'sensing' && { low: '', high: '' }),
                        },
                        'kind',
                      );
                    }}
                    slotProps={{ htmlInput: { 'aria-label': `What it is, line ${i + 1}` } }}
                    sx={{ width: 112 }}
                  >
                    {kinds.map((k) => (
                      <MenuItem key={k.kind} value={k.kind}>
                        {k.says}
                      </MenuItem>
                    ))}
                  </TextField>
                </td>
                <td>{cell(i, 'from', 'From', 92)}</td>
                <td>{cell(i, 'to', 'To', 92)}</td>
                <td>
                  {row.kind === 'link' ? (
                    <TextField
                      select
                      size="small"
                      value={row.ohms === 'open' ? 'open' : 'closed'}
                      onChange={(e) => put(i, { ohms: e.target.value }, 'ohms')}
                      slotProps={{ htmlInput: { 'aria-label': `Link, line ${i + 1}` } }}
                      sx={{ width: 100 }}
                    >
                      <MenuItem value="closed">closed</MenuItem>
                      <MenuItem value="open">open</MenuItem>
                    </TextField>
                  ) : (
                    cell(i, 'ohms', 'Ω', 100)
                  )}
                  {row.kind === 'sensing' && (
                    <Box sx={{ mt: 0.5 }}>
                      {cell(i, 'low', 'Ω at the low end of its range', 72)} …{' '}
                      {cell(i, 'high', 'Ω at the high end of its range', 72)}
                    </Box>
                  )}
                </td>
                <td>{row.kind !== 'link' && cell(i, 'tolerance', '± %', 64)}</td>
                <td>
                  <IconButton
                    aria-label={`Leave out ${row.id.trim() || `line ${i + 1}`}`}
                    onClick={() =>
                      inHand.change({ rows: rows.filter((_, k) => k !== i) }, `out ${rows.length}`)
                    }
                  >
                    <DeleteOutlined fontSize="small" />
                  </IconButton>
                </td>
              </Box>
            ))}
          </tbody>
        </Box>
      </Box>
      <Button
        sx={{ ...gloved, mt: 0.5 }}
        disabled={rows.length >= mostOwnRows}
        onClick={() => inHand.change({ rows: [...rows, emptyRow(rows)] }, `add ${rows.length}`)}
      >
        Add an element
      </Button>
    </Box>
  );
}
