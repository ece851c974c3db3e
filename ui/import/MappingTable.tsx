'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { ImportStartView } from '@/contract/recordViews';
import { quantityCodes, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { columnUnit } from '@/core/import/guessColumn';
import { unitsLike, type Unit } from '@/core/quantity/unit';
import { headRows, type Draft } from './draft';

type Target = Draft['targets'][number];

/** Which column goes to which channel, and in which unit it is written. */
export function MappingTable({
  draft,
  start,
  onChange,
}: {
  draft: Draft;
  start: ImportStartView;
  onChange: (draft: Draft) => void;
}) {
  const rows = headRows(draft).slice(draft.dialect.headerRows);
  const set = (column: number, target: Target) =>
    onChange({
      ...draft,
      targets: draft.targets.map((t, i) => (i === column ? target : t)),
      remembered: false,
    });
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Typography variant="h3" sx={{ mb: 0.5 }}>
        Where its columns go
      </Typography>
      <Table size="small" aria-label="Columns and channels">
        <TableHead>
          <TableRow>
            <TableCell>Column</TableCell>
            <TableCell>First values</TableCell>
            <TableCell>Channel</TableCell>
            <TableCell>Quantity and place</TableCell>
            <TableCell>Written in</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {draft.columns.map((c, i) => (
            <TableRow key={i}>
              <TableCell>
                <b>{c.name}</b> {c.unit && `(${c.unit})`}
              </TableCell>
              <TableCell sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
                {rows
                  .slice(0, 2)
                  .map((r) => r[i] ?? '')
                  .join('   ')}
              </TableCell>
              {draft.dialect.timeColumns.includes(i) ? (
                <TableCell colSpan={3}>the time</TableCell>
              ) : (
                <TargetCells
                  name={c.name}
                  written={c.unit}
                  target={draft.targets[i] ?? null}
                  start={start}
                  onChange={(t) => set(i, t)}
                />
              )}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function TargetCells({
  name,
  written,
  target,
  start,
  onChange,
}: {
  name: string;
  /** The unit as the file has it. */
  written: string;
  target: Target;
  start: ImportStartView;
  onChange: (target: Target) => void;
}) {
  const unitFor = (quantity: QuantityCode): Unit | null => {
    const units = unitsLike(quantityOf(quantity).unit);
    return target?.unit && units.includes(target.unit) ? target.unit : columnUnit(quantity, name, written);
  };
  const chosen = target === null ? 'none' : target.kind === 'new' ? 'new' : target.id;
  const choose = (value: string) => {
    if (value === 'none') return onChange(null);
    if (value === 'new') {
      const quantity = target?.quantity ?? 'airTemperature';
      return onChange({ kind: 'new', quantity, zoneName: '', unit: unitFor(quantity) });
    }
    const channel = start.channels.find((c) => c.id === value)!;
    onChange({
      kind: 'existing',
      id: value,
      quantity: channel.quantity,
      unit: unitFor(channel.quantity),
    });
  };
  return (
    <>
      <TableCell>
        <TextField
          select
          label={`Channel for ${name}`}
          value={chosen}
          onChange={(e) => choose(e.target.value)}
          sx={{ width: 230 }}
        >
          <MenuItem value="none">not imported</MenuItem>
          <MenuItem value="new">a new channel</MenuItem>
          {start.channels.map((c) => (
            <MenuItem key={c.id} value={c.id}>
              {c.number === null ? '' : `${c.number} · `}
              {c.name}
            </MenuItem>
          ))}
        </TextField>
      </TableCell>
      <TableCell>
        {target?.kind === 'new' && (
          <Box sx={{ display: 'flex', gap: 1 }}>
            <TextField
              select
              label={`Quantity of ${name}`}
              value={target.quantity}
              sx={{ width: 170 }}
              onChange={(e) => {
                const quantity = e.target.value as QuantityCode;
                onChange({ ...target, quantity, unit: unitFor(quantity) });
              }}
            >
              {quantityCodes.map((q) => (
                <MenuItem key={q} value={q}>
                  {quantityOf(q).name}
                </MenuItem>
              ))}
            </TextField>
            <TextField
              label={`Zone of ${name}`}
              value={target.zoneName}
              error={target.zoneName.trim() === ''}
              sx={{ width: 170 }}
              onChange={(e) => onChange({ ...target, zoneName: e.target.value })}
            />
          </Box>
        )}
        {target?.kind === 'existing' && quantityOf(target.quantity).name}
      </TableCell>
      <TableCell>
        {target && (
          <TextField
            select
            label={`Unit of ${name}`}
            value={target.unit ?? ''}
            error={target.unit === null}
            helperText={target.unit === null ? `“${written}” is not known: say which` : undefined}
            sx={{ width: 150 }}
            onChange={(e) => onChange({ ...target, unit: e.target.value as Unit })}
          >
            {unitsLike(quantityOf(target.quantity).unit).map((u) => (
              <MenuItem key={u} value={u}>
                {u}
              </MenuItem>
            ))}
          </TextField>
        )}
      </TableCell>
    </>
  );
}
