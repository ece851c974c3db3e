'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ReviseLevels, WaterView } from '@/contract/water';
import { groupBy } from '@/core/groupBy';
import { formatDifference, formatValue } from '@/core/quantity/format';
import type { LevelReading } from '@/core/water/levelReading';
import { levelSum, type LevelRecord } from '@/core/water/levelSum';
import { metresOf } from '@/core/water/metres';
import {
  barProposals,
  surveyProposals,
  type SurveyProposal,
  type WireProposal,
} from '@/core/water/proposals';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';

interface Props {
  view: WaterView;
  record: LevelRecord;
  onChanged: () => Promise<void>;
}

/** What later surveys and checks of the bar would mean for levels that were read: nothing is applied by itself. */
export function Proposals({ view, record, onChanged }: Props) {
  const surveys = surveyProposals(record, view.elevations);
  const bars = barProposals(record);
  const bare = record.readings.filter(
    (r) =>
      r.read.kind === 'wire' && levelSum(r, record).level === null && !bars.some((b) => b.readingId === r.id),
  );
  if (surveys.length + bars.length + bare.length === 0) return null;
  const groups = [...groupBy(surveys, (s) => `${s.surveyId} ${s.pointId}`).values()];
  return (
    <Box component="section" aria-labelledby="proposed" sx={{ mt: 3 }}>
      <Typography variant="h2" id="proposed">
        Proposed for levels read before
      </Typography>
      <Typography variant="body2" color="text.secondary">
        Nothing here is applied by itself, and what is agreed to can be taken back.
      </Typography>
      {groups.map((g) => (
        <OfSurvey
          key={`${g[0]!.surveyId} ${g[0]!.pointId}`}
          view={view}
          record={record}
          proposals={g}
          onChanged={onChanged}
        />
      ))}
      {bars.map((b) => (
        <OfBar key={b.readingId} view={view} record={record} proposal={b} onChanged={onChanged} />
      ))}
      {bare.map((r) => (
        <Assume key={r.id} view={view} record={record} reading={r} onChanged={onChanged} />
      ))}
    </Box>
  );
}

function useRevise({ view, onChanged }: Pick<Props, 'view' | 'onChanged'>) {
  return useMutation({
    mutationFn: (body: ReviseLevels) =>
      send('POST', `/api/v1/stations/${view.stationId}/water/revisions`, body),
    onSuccess: onChanged,
  });
}

const codeOf = (view: WaterView, pointId: string | null) =>
  view.points.find((p) => p.id === pointId)?.code ?? '';

function OfSurvey({ view, onChanged, proposals }: Props & { proposals: readonly SurveyProposal[] }) {
  const may = useMay('mark');
  const revise = useRevise({ view, onChanged });
  const first = proposals[0]!;
  const survey = view.surveys.find((s) => s.id === first.surveyId);
  const code = codeOf(view, first.pointId);
  const day = survey ? timeText(survey.surveyedAt, view.zone).slice(0, 10) : '';
  const take = (of: 'step' | 'prorated') =>
    revise.mutate({
      revisions: proposals
        .filter((p) => p[of] !== 0)
        .map((p) => ({ revisionId: newId(), readingId: p.readingId, adds: p[of] })),
      because: 'survey',
      surveyId: first.surveyId,
      reason: `survey of ${day}: ${code} ${formatDifference(first.change, 3)} m${of === 'prorated' ? ', pro-rated' : ''}`,
    });
  const [least, most] = [
    Math.min(...proposals.map((p) => Math.abs(p.prorated))),
    Math.max(...proposals.map((p) => Math.abs(p.prorated))),
  ];
  const sign = Math.sign(first.change);
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Typography>
        The survey of {day} found {code} {formatDifference(first.change, 3)} m from where the one before did,{' '}
        {first.isTelling ? 'more than both are good to' : 'within what both are good to: leave it alone'}.{' '}
        {proposals.length} {proposals.length === 1 ? 'level rests' : 'levels rest'} on the older one.
      </Typography>
      {may && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 0.5 }}>
          <Button sx={gloved} disabled={revise.isPending} onClick={() => take('step')}>
            Add {formatDifference(first.step, 3)} m to each
          </Button>
          {!first.isLate && (
            <Button sx={gloved} disabled={revise.isPending || most === 0} onClick={() => take('prorated')}>
              Pro-rate: {formatDifference(sign * least, 3)} to {formatDifference(sign * most, 3)} m
            </Button>
          )}
        </Box>
      )}
      <ProblemNote error={revise.error} />
    </Box>
  );
}

function OfBar({ view, record, onChanged, proposal }: Props & { proposal: WireProposal }) {
  const may = useMay('mark');
  const revise = useRevise({ view, onChanged });
  const reading = record.readings.find((r) => r.id === proposal.readingId)!;
  const { before, after, how, correction } = proposal;
  const state = (s: typeof before) =>
    s && `${formatDifference(s.correction, 3)} m on ${timeText(s.at, view.zone)}`;
  const reason = {
    'pro-rated': `between checks of the bar, ${state(before)} and ${state(after)}`,
    'as left before': `as the bar was left, ${state(before)}`,
    'as found after': `as the bar was found, ${state(after)}`,
  }[how];
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Typography>
        {codeOf(view, reading.pointId)}, water of {timeText(reading.at, view.zone)} has no check of the bar.
        Proposed: {formatDifference(correction, 3)} m, {how}.
      </Typography>
      <Sum>{reason}</Sum>
      {may && (
        <Box sx={{ mt: 0.5 }}>
          <Button
            sx={gloved}
            disabled={revise.isPending}
            onClick={() =>
              revise.mutate({
                revisions: [{ revisionId: newId(), readingId: reading.id, adds: correction }],
                because: 'bar',
                surveyId: null,
                reason,
              })
            }
          >
            Assume {formatDifference(correction, 3)} m
          </Button>
        </Box>
      )}
      <ProblemNote error={revise.error} />
    </Box>
  );
}

/** A correction that nobody can look up: stated as an assumption. */
function Assume({ view, onChanged, reading }: Props & { reading: LevelReading }) {
  const may = useMay('mark');
  const revise = useRevise({ view, onChanged });
  const [text, setText] = useState('');
  const [reason, setReason] = useState('');
  const metres = metresOf(text);
  if (reading.read.kind !== 'wire') return null;
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Typography>
        {codeOf(view, reading.pointId)}, water {formatValue(reading.read.reads, 3)} m of{' '}
        {timeText(reading.at, view.zone)}: the bar was never read here. Read it at this visit, or state what
        you assume.
      </Typography>
      {may && (
        <Box
          component="form"
          aria-label="Assume a correction"
          onSubmit={(e) => {
            e.preventDefault();
            revise.mutate({
              revisions: [{ revisionId: newId(), readingId: reading.id, adds: metres }],
              because: 'assumed',
              surveyId: null,
              reason,
            });
          }}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}
        >
          <TextField
            size="medium"
            label="Correction, m"
            value={text}
            error={text !== '' && !Number.isFinite(metres)}
            onChange={(e) => setText(e.target.value)}
            sx={{ width: 150 }}
          />
          <TextField
            size="medium"
            label="Because"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            sx={{ width: 260, maxWidth: '100%' }}
          />
          <Button
            type="submit"
            sx={gloved}
            disabled={!Number.isFinite(metres) || reason.trim().length < 3 || revise.isPending}
          >
            Assume it
          </Button>
        </Box>
      )}
      <ProblemNote error={revise.error} />
    </Box>
  );
}
