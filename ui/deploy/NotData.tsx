'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { MarkNotData } from '@/contract/deployRequests';
import type { NotDataView } from '@/contract/deployViews';
import { send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

const titles = { bench: 'From the bench', 'drive-home': 'From the drive home' } as const;

/** A stretch that is proposed as not data: marked as it is proposed, or with its ends corrected. */
export function NotData({
  stationId,
  launchId,
  proposal,
  onChanged,
}: {
  stationId: string;
  launchId: string;
  proposal: NotDataView;
  onChanged: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const mayMark = useMay('mark');
  const [from, setFrom] = useState(Date.parse(proposal.from));
  const [until, setUntil] = useState(Date.parse(proposal.until));
  const mark = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${stationId}/deployments/${launchId}/not-data`, {
        which: proposal.which,
        from: new Date(from).toISOString(),
        until: new Date(until).toISOString(),
        reason: proposal.why,
      } satisfies MarkNotData),
    onSuccess: onChanged,
  });
  const title = titles[proposal.which];
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{
        borderLeft: 4,
        borderColor: proposal.marked ? 'secondary.main' : 'warning.main',
        pl: 1.5,
        py: 0.5,
      }}
    >
      <Typography>
        <b>
          {title}: {proposal.marked ? 'marked as not data' : 'proposed as not data'}
        </b>
        , {timeText(proposal.from, zone)} to {timeText(proposal.until, zone)}
        {proposal.by === 'record' && ', by the record alone: nobody said'}.
      </Typography>
      <Typography variant="body2">{proposal.why}.</Typography>
      {!proposal.marked && mayMark && (
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
          <InstantField label="From" value={from} zone={zone} onChange={setFrom} />
          <InstantField label="Until" value={until} zone={zone} onChange={setUntil} />
          <Button
            variant="contained"
            sx={gloved}
            disabled={mark.isPending || !(until > from)}
            onClick={() => mark.mutate()}
          >
            Mark as not data
          </Button>
        </Box>
      )}
      {proposal.marked && (
        <Typography variant="body2">A mark is taken back on the trace of its channel.</Typography>
      )}
      <ProblemNote error={mark.error} />
    </Box>
  );
}
