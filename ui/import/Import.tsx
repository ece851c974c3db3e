'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState, type DragEvent } from 'react';
import type { ImportStartView } from '@/contract/recordViews';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { StationHead } from '../station/StationHead';
import { draftOf, planOf, type Draft } from './draft';
import { FilePreview } from './FilePreview';
import { ImportList } from './ImportList';
import { ImportRun } from './ImportRun';
import { LayoutForm } from './LayoutForm';
import { MappingTable } from './MappingTable';
import { useScan } from './useScan';

/** Brings a record in from a file: choose, look at what it is taken for, map, see what would come of it, import. */
export function Import({ initial }: { initial: ImportStartView }) {
  const path = `/api/v1/stations/${initial.stationId}/imports`;
  const {
    data: start,
    error,
    refetch,
  } = useQuery({
    queryKey: [path],
    queryFn: () => load<ImportStartView>(path),
    initialData: initial,
  });
  const mayImport = useMay('import');
  const [draft, setDraft] = useState<Draft | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const choose = (file: File | undefined) => {
    if (!file) return;
    draftOf(file, start).then(
      (d) => {
        setDraft(d);
        setRefused(null);
      },
      (e: unknown) => {
        setDraft(null);
        setRefused((e as Error).message);
      },
    );
  };
  const plan = draft && planOf(draft);
  const stored = (plan?.columns ?? []).map(({ channel }) =>
    channel.kind === 'existing' ? (start.channels.find((c) => c.id === channel.id)?.stored ?? null) : null,
  );
  const scan = useScan(draft?.file ?? null, plan?.columns.length ? plan : null, stored);
  return (
    <>
      <StationHead stationId={start.stationId} code={start.code} name={start.name} />
      <Typography variant="h2" sx={{ mb: 1 }}>
        Import a record from a file
      </Typography>
      <ProblemNote error={error} />
      {mayImport && <DropZone onFile={choose} fileName={draft?.file.name ?? null} limit={start.limit} />}
      {refused && (
        <Box
          role="alert"
          sx={{ my: 1, p: 1.5, border: 1, borderColor: 'error.main', bgcolor: 'ground.heatherWash' }}
        >
          {refused}
        </Box>
      )}
      {draft && (
        <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 2.5, mt: 2 }}>
          {draft.remembered && (
            <Typography>
              <b>A file of this layout was imported here before:</b> its settings are taken over. Look at them
              once more.
            </Typography>
          )}
          <LayoutForm draft={draft} start={start} onChange={setDraft} />
          <MappingTable draft={draft} start={start} onChange={setDraft} />
          <FilePreview draft={draft} plan={plan} scan={scan} zone={start.zone} onChange={setDraft} />
          <ImportRun
            key={JSON.stringify([draft.file.name, draft.file.size, draft.file.lastModified])}
            stationId={start.stationId}
            draft={draft}
            plan={plan}
            scan={scan}
            onDone={() => void refetch()}
          />
        </Box>
      )}
      {!mayImport && <Typography>You may look at imports; a technician makes them.</Typography>}
      <ImportList start={start} onChanged={() => void refetch()} />
    </>
  );
}

function DropZone({
  onFile,
  fileName,
  limit,
}: {
  onFile: (file: File | undefined) => void;
  fileName: string | null;
  limit: number;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    onFile(event.dataTransfer.files[0]);
  };
  return (
    <Box
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      sx={{
        position: 'relative',
        display: 'flex',
        gap: 2,
        alignItems: 'center',
        flexWrap: 'wrap',
        p: 2,
        border: 2,
        borderStyle: 'dashed',
        borderColor: over ? 'primary.main' : 'divider',
        bgcolor: over ? 'ground.skyWash' : 'background.paper',
      }}
    >
      <Button
        variant={fileName ? 'outlined' : 'contained'}
        sx={gloved}
        onClick={() => input.current?.click()}
      >
        {fileName ? 'Choose another file' : 'Choose a file'}
      </Button>
      <Box
        component="input"
        ref={input}
        type="file"
        accept=".csv,.txt,.tsv,.dat,text/*"
        aria-label="Record file"
        sx={{ position: 'absolute', left: 0, width: '1px', height: '1px', opacity: 0, pointerEvents: 'none' }}
        tabIndex={-1}
        onChange={(e) => {
          onFile(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
      <Typography color="text.secondary">
        {fileName ?? `or drop it here: text with a row a stamp, up to ${Math.round(limit / 1e6)} MB`}
      </Typography>
    </Box>
  );
}
