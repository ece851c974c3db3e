'use client';

import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { PhotographsView } from '@/contract/photographs';
import { load } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { timeText } from '../shared/time';
import { AddPhotographs } from './AddPhotographs';
import { PhotographDialog } from './PhotographDialog';
import { Picture } from './Picture';
import { pictureText } from './pictureText';

/** Photographs of the terminals and the place: before anything is touched, and when it is done. */
export function Photographs({ stationId, planRevision }: { stationId: string; planRevision: number | null }) {
  const path = `/api/v1/stations/${stationId}/photographs`;
  const { data, error, refetch } = useQuery({
    queryKey: [path],
    queryFn: () => load<PhotographsView>(path),
  });
  const mayAdd = useMay('measure');
  const [open, setOpen] = useState<string | null>(null);
  const all = data?.photographs ?? [];
  return (
    <Box component="section" aria-labelledby="photographs" sx={{ mt: 3 }}>
      <Typography variant="h2" id="photographs" sx={{ mb: 1 }}>
        Photographs
      </Typography>
      {mayAdd && (
        <AddPhotographs
          stationId={stationId}
          planRevision={planRevision}
          terminals={data?.terminals ?? []}
          channels={data?.channels ?? []}
          onSent={() => refetch()}
        />
      )}
      <ProblemNote error={error} />
      {data && all.length === 0 && (
        <Typography color="text.secondary">
          No photographs yet. Before touching anything, take the terminals from several angles: two colours
          can look alike in poor light.
        </Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gap: 1.5,
          gridTemplateColumns: 'repeat(auto-fill, minmax(180px, 1fr))',
          mt: 1.5,
        }}
      >
        {all.map((g) => (
          <ButtonBase
            key={g.id}
            onClick={() => setOpen(g.id)}
            sx={{
              display: 'flex',
              flexDirection: 'column',
              alignItems: 'stretch',
              justifyContent: 'flex-start',
              textAlign: 'left',
              border: 1,
              borderColor: 'divider',
            }}
          >
            <Picture
              stationId={stationId}
              id={g.id}
              size="small"
              alt=""
              loading="lazy"
              sx={{ display: 'block', width: '100%', height: 150, objectFit: 'cover' }}
            />
            <Box sx={{ p: 1 }}>
              <Typography variant="body2" sx={{ fontWeight: 600 }}>
                {pictureText(g)}
              </Typography>
              <Typography variant="body2" color="text.secondary">
                {timeText(g.takenAt, data!.zone)} · {g.initials}
                {g.planRevision !== null && ` · plan ${g.planRevision}`}
              </Typography>
            </Box>
          </ButtonBase>
        ))}
      </Box>
      {data && data.total > all.length && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          The newest {all.length} of {data.total}; the older ones are on file.
        </Typography>
      )}
      {open !== null && (
        <PhotographDialog
          stationId={stationId}
          zone={data?.zone ?? 'utc'}
          all={all}
          id={open}
          mayTakeBack={mayAdd}
          onTurn={setOpen}
          onClose={() => setOpen(null)}
          onTakenBack={async () => {
            setOpen(null);
            await refetch();
          }}
        />
      )}
    </Box>
  );
}
