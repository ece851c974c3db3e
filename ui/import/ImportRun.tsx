'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { ImportIssueView, ImportResultView, ImportView } from '@/contract/recordViews';
import type { OperationView } from '@/contract/views';
import { refusePlan, type ImportPlan } from '@/core/import/plan';
import { load, newId, Refusal, send, sendFile } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import type { Draft } from './draft';
import { OddRows } from './OddRows';
import type { Scan } from './useScan';

/** Sends the file, says how far it is, can be stopped, and gives the result in plain numbers. */
export function ImportRun({
  stationId,
  draft,
  plan,
  scan,
  onDone,
}: {
  stationId: string;
  draft: Draft;
  plan: ImportPlan | null;
  scan: Scan;
  onDone: () => void;
}) {
  const base = `/api/v1/stations/${stationId}/imports`;
  const [importId, setImportId] = useState<string | null>(null);
  const run = useMutation({
    mutationFn: async (confirmed: boolean) => {
      const id = newId();
      // What is shown until this one runs is not how far the last one came.
      setImportId(null);
      await send('POST', base, {
        importId: id,
        fileName: draft.file.name,
        bytes: draft.file.size,
        signature: draft.signature,
        plan,
        confirmed,
      });
      setImportId(id);
      return sendFile<ImportResultView>(`${base}/${id}/file`, draft.file);
    },
    onSettled: onDone,
  });
  const { data: operation } = useQuery({
    queryKey: ['operation', importId],
    enabled: run.isPending && importId !== null,
    queryFn: () => load<OperationView>(`/api/v1/operations/${importId}`),
    refetchInterval: 400,
    retry: false,
  });
  const problem = run.error instanceof Refusal ? run.error.problem : null;
  const asks = Boolean((problem?.extra as { confirm?: boolean } | undefined)?.confirm);
  const unlike = scan.state === 'done' && scan.result.targets.some((t) => t.unlike);
  const inTheWay = plan && plan.columns.length > 0 ? refusePlan(plan) : null;
  const ready = scan.state === 'done' && scan.result.count.values > 0 && !inTheWay;
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          sx={gloved}
          disabled={!ready || run.isPending}
          onClick={() => run.mutate(false)}
        >
          Import
        </Button>
        {run.isPending && (
          <Button
            sx={gloved}
            onClick={() => importId && void send('POST', `/api/v1/operations/${importId}/cancel`)}
          >
            Stop
          </Button>
        )}
        <Typography color="text.secondary">
          {inTheWay
            ? `${inTheWay.detail} ${inTheWay.remedy}`
            : 'Stored values are never changed: what disagrees with them is listed, not taken.'}
        </Typography>
      </Box>
      {run.isPending && (
        <Box sx={{ mt: 1, maxWidth: 480 }}>
          <LinearProgress
            variant="determinate"
            value={(operation?.progress ?? 0) * 100}
            aria-label="Progress of the import"
          />
          <Typography variant="body2">{operation?.message ?? 'Beginning'}</Typography>
        </Box>
      )}
      <ProblemNote error={run.error}>
        {(asks || (problem && unlike)) && (
          <Button size="small" sx={{ mt: 1 }} onClick={() => run.mutate(true)}>
            It is the right station: import it all the same
          </Button>
        )}
      </ProblemNote>
      {run.data && <Result stationId={stationId} result={run.data} />}
    </Box>
  );
}

function Result({ stationId, result: r }: { stationId: string; result: ImportResultView }) {
  const path = `/api/v1/stations/${stationId}/imports/${r.importId}`;
  const notTaken = r.refused + r.conflicting;
  const { data } = useQuery({
    queryKey: [path],
    enabled: notTaken > 0,
    queryFn: () => load<ImportView & { issues: ImportIssueView[] }>(path),
  });
  return (
    <Box
      role="status"
      aria-label="Result of the import"
      sx={{ mt: 2, borderLeft: 4, borderColor: 'secondary.main', pl: 2 }}
    >
      <Typography variant="h3">Imported</Typography>
      <Box
        component="dl"
        sx={{ display: 'grid', gridTemplateColumns: 'max-content 1fr', columnGap: 2, m: 0, '& dd': { m: 0 } }}
      >
        <Count n={r.stored} what="values new" />
        <Count n={r.known} what="identical with what is stored" />
        <Count n={r.conflicting} what="in conflict: the stored values stay" />
        <Count n={r.refused} what="refused" />
        <Count n={r.missing} what="missing in the file" />
      </Box>
      <Sum>
        {r.stored} + {r.known} + {r.conflicting} + {r.refused} + {r.missing}, from {r.rows} rows
      </Sum>
      {data && (
        <Box sx={{ mt: 1 }}>
          <OddRows
            rows={data.issues}
            caption={
              notTaken > data.issues.length
                ? `The first ${data.issues.length} of ${notTaken} not taken`
                : 'Not taken'
            }
          />
          <Link href={`${path}/issues.csv`} download>
            Download all that was not taken
          </Link>
        </Box>
      )}
    </Box>
  );
}

function Count({ n, what }: { n: number; what: string }) {
  return (
    <>
      <Box component="dt" sx={{ textAlign: 'right', fontWeight: 600 }}>
        {n}
      </Box>
      <dd>{what}</dd>
    </>
  );
}
