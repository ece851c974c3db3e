'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ScanBus } from '@/contract/busRequests';
import type { ScanView } from '@/contract/busViews';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { OperationProgress } from '../shared/OperationProgress';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

/** Asks every ID of a range who is there; the map fills while it goes, and stays when it is stopped. */
export function Scan({ base }: { base: string }) {
  const [from, setFrom] = useState<number | null>(1);
  const [to, setTo] = useState<number | null>(247);
  const [timeOut, setTimeOut] = useState<number | null>(100);
  const operation = useOperation(() => {});
  const scan = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `${base}/scan`, {
        operationId: newId(),
        from: from!,
        to: to!,
        timeOut: timeOut!,
      } satisfies ScanBus),
    onSuccess: (o) => operation.follow(o.id),
  });
  const found = operation.result as ScanView | null;
  const last = found && operation.running ? from! + Math.round(operation.progress * (to! - from! + 1)) : 247;
  const seconds =
    from !== null && to !== null && timeOut !== null ? ((to - from + 1) * (timeOut + 15)) / 1000 : 0;
  return (
    <Box component="section" aria-label="Scan">
      <Typography variant="h3">Scan</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 }}>
        {(
          [
            ['From ID', from, setFrom, 1, 247],
            ['To ID', to, setTo, 1, 247],
            ['Listen for, ms', timeOut, setTimeOut, 40, 2000],
          ] as const
        ).map(([label, value, set, low, high]) => (
          <Box key={label} sx={{ width: 112 }}>
            <NumberField label={label} value={value} low={low} high={high} empty={false} onChange={set} />
          </Box>
        ))}
        <Button
          sx={gloved}
          variant="outlined"
          disabled={operation.running || scan.isPending || [from, to, timeOut].includes(null)}
          onClick={() => scan.mutate()}
        >
          Scan, about {Math.max(1, Math.round(seconds))} s
        </Button>
      </Box>
      {operation.running && <OperationProgress operation={operation} label="Progress of the scan" />}
      <Box role="status">{operation.ended && `${endWord[operation.ended]}: ${operation.message}`}</Box>
      <ProblemNote error={scan.error} />
      {found && <ScanMap found={found} last={last} />}
    </Box>
  );
}

/** Every ID as a square: full for who answers, crossed where two talk at once, a ring for who is missing, a dot for silence. */
function ScanMap({ found, last }: { found: ScanView; last: number }) {
  const ids = Array.from({ length: found.to - found.from + 1 }, (_, i) => found.from + i);
  const hits = new Map(found.hits.map((h) => [h.id, h]));
  const silent = new Map(found.silent.map((s) => [s.id, s.serial]));
  const columns = 25;
  const size = 16;
  return (
    <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', my: 1 }}>
      <Box
        component="svg"
        role="img"
        aria-label={`${hits.size} of ${ids.length} IDs answered`}
        viewBox={`0 0 ${columns * size} ${Math.ceil(ids.length / columns) * size}`}
        sx={{ width: 400, maxWidth: '100%', alignSelf: 'flex-start' }}
      >
        {ids.map((id, i) => {
          const x = (i % columns) * size + size / 2;
          const y = Math.floor(i / columns) * size + size / 2;
          const hit = hits.get(id);
          const colour = `var(--mui-palette-${hit ? (hit.heard === 'answer' ? 'secondary' : 'error') : silent.has(id) ? 'warning' : 'text'}-${hit || silent.has(id) ? 'main' : 'secondary'})`;
          return (
            <g key={id}>
              <title>{`ID ${id}${hit ? `: ${hit.heard === 'answer' ? 'answers' : 'garbled'}` : silent.has(id) ? `: ${silent.get(id)} is silent` : ''}`}</title>
              {hit?.heard === 'answer' && (
                <rect x={x - 6} y={y - 6} width={12} height={12} rx={2} fill={colour} />
              )}
              {hit?.heard === 'garbled' && (
                <path d={`M${x - 6} ${y - 6}l12 12m0 -12l-12 12`} stroke={colour} strokeWidth={3} />
              )}
              {!hit && silent.has(id) && (
                <circle cx={x} cy={y} r={5} fill="none" stroke={colour} strokeWidth={2.2} />
              )}
              {!hit && !silent.has(id) && <circle cx={x} cy={y} r={id <= last ? 1.8 : 0.8} fill={colour} />}
            </g>
          );
        })}
      </Box>
      <Box component="ul" sx={{ m: 0, pl: 2, minWidth: 260, flex: 1 }}>
        {found.hits.map((h) => (
          <li key={h.id}>
            <b>ID {h.id}</b> {h.heard === 'answer' ? 'answers' : 'answers garbled: two with one ID?'}
            {h.late && ', late: listen longer'} · {h.serial ?? <i>nothing on file has it</i>}
          </li>
        ))}
        {found.silent.map((s) => (
          <li key={s.id}>
            <b>ID {s.id}</b> is silent · {s.serial} should be there
          </li>
        ))}
      </Box>
    </Box>
  );
}
