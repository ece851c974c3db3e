'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import equal from 'fast-deep-equal';
import { useSearchParams } from 'next/navigation';
import { useState } from 'react';
import type { ChannelWatchView } from '@/contract/watch';
import { ruleDoubts } from '@/core/watch/fault';
import type { WatchRule } from '@/core/watch/rule';
import { ruleSays } from '@/core/watch/says';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StationHead } from '../station/StationHead';
import { timeText } from '../shared/time';
import { useHistory } from '../shared/useHistory';
import { useView } from '../shared/useView';
import { ArmForm } from './ArmForm';
import { firstRule } from './firstRule';
import { Proof } from './Proof';
import { groundOfView, useRehearsal } from './rehearsal';
import { RehearsalDrawing } from './RehearsalDrawing';
import { RingList } from './RingList';
import { RuleForm } from './RuleForm';
import { Schedule } from './Schedule';

const days = 86_400_000;
const spans = { '7 days': 7, '30 days': 30, '90 days': 90, 'A year': 365, All: Infinity } as const;
type SpanName = keyof typeof spans;

/** The bench of a rule: tried on the recorded past before it is armed, then proved by provoking it. */
export function ChannelWatch({ initial }: { initial: ChannelWatchView }) {
  const {
    data: view,
    error,
    changed,
  } = useView(`/api/v1/stations/${initial.stationId}/channels/${initial.channelId}/watch`, initial, 10_000);
  const params = useSearchParams();
  const may = useMay('measure');
  const last = view.rules[0] ?? null;
  const inForce = last?.armed ? last.rule : null;
  const history = useHistory<WatchRule>(last?.rule ?? firstRule(view));
  const [asArrived, setAsArrived] = useState(false);
  const [picked, setPicked] = useState<number | null>(null);
  const asked = params.get('span');
  const spanName: SpanName = asked && asked in spans ? (asked as SpanName) : '30 days';
  // What arrives meanwhile is for the next look: a record that grew would be read anew.
  const span = spanOf(initial, spans[spanName]);
  const draft = history.now;
  const played = useRehearsal(view, span, draft, inForce, asArrived);
  const { rehearsal, fault } = played.draft;
  const ring = picked === null ? null : (rehearsal?.rings[picked] ?? null);
  return (
    <>
      <StationHead stationId={view.stationId} code={view.code} name={view.channelName}>
        <Button component={PageLink} href={`/stations/${view.stationId}/trace/${view.channelId}`}>
          Trace
        </Button>
        <Button component={PageLink} href="/watch">
          Board
        </Button>
      </StationHead>
      <ProblemNote error={error ?? played.error} />
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="Of the record"
          value={spanName}
          onChange={(_, v: SpanName | null) => {
            if (!v) return;
            setPicked(null);
            window.history.replaceState(null, '', `?span=${encodeURIComponent(v)}`);
          }}
        >
          {Object.keys(spans).map((s) => (
            <ToggleButton key={s} value={s}>
              {s}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="Values taken"
          value={asArrived}
          onChange={(_, v: boolean | null) => v !== null && setAsArrived(v)}
        >
          <ToggleButton value={false}>as they happened</ToggleButton>
          <ToggleButton value>as they arrived</ToggleButton>
        </ToggleButtonGroup>
        {may && (
          <>
            <Button size="small" disabled={!history.canUndo} onClick={history.undo}>
              Undo
            </Button>
            <Button size="small" disabled={!history.canRedo} onClick={history.redo}>
              Redo
            </Button>
          </>
        )}
      </Box>
      {played.isWaiting && <LinearProgress aria-label="Reading the record" />}
      {played.recorded && !played.isThere && (
        <Box sx={{ overflowX: 'auto' }}>
          <RehearsalDrawing
            recorded={played.recorded}
            quantity={view.quantity}
            zone={view.zone}
            limits={draft.limits}
            draft={rehearsal}
            inForce={played.inForce.rehearsal}
            picked={ring && { from: ring.began, until: ring.returned ?? Date.parse(span.until) }}
            onLimit={
              may
                ? (field, value, goesOn) =>
                    history.edit((now) => ({ ...now, limits: { ...now.limits, [field]: value } }), goesOn)
                : null
            }
          />
        </Box>
      )}
      {played.isThere && (
        <Typography variant="body2" color="text.secondary">
          {played.readings} values: too many to draw and play here. The server plays them; change the fields
          below.
        </Typography>
      )}
      {fault && (
        <Alert severity="warning" variant="outlined" role="alert" sx={{ my: 1, color: 'text.primary' }}>
          {fault.says} {fault.remedy}
        </Alert>
      )}
      <Box
        sx={{
          display: 'grid',
          gap: 3,
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          mt: 1,
        }}
      >
        <Box>
          {may && <RuleForm view={view} rule={draft} onChange={history.edit} />}
          {ruleDoubts(draft, groundOfView(view), view.loggers).map((d) => (
            <Typography key={d} variant="body2" sx={{ mt: 0.5 }}>
              ▲ {d}
            </Typography>
          ))}
          {may && (
            <ArmForm view={view} rule={draft} isChanged={!equal(draft, last?.rule)} onSaved={changed} />
          )}
          {may && <Schedule view={view} onChanged={changed} />}
        </Box>
        {rehearsal && (
          <RingList
            view={view}
            draft={rehearsal}
            inForce={played.inForce.rehearsal}
            picked={picked}
            onPick={setPicked}
          />
        )}
      </Box>
      <Proof view={view} newest={played.recorded?.value.at(-1) ?? null} onChanged={changed} />
      <Rules view={view} />
    </>
  );
}

/** The span of a rehearsal: it ends with the newest value. */
function spanOf(view: ChannelWatchView, length: number): { from: string; until: string } {
  // Of nothing stored, a day of nothing.
  const until = (view.newestAt ? Date.parse(view.newestAt) : days) + 1000;
  const first = view.firstAt ? Date.parse(view.firstAt) : until - days;
  const from = Math.min(until - days, Math.max(first, until - (length === Infinity ? until : length * days)));
  return { from: new Date(from).toISOString(), until: new Date(until).toISOString() };
}

function Rules({ view }: { view: ChannelWatchView }) {
  if (view.rules.length === 0) return null;
  return (
    <Box component="section" aria-label="Rules">
      <Typography variant="h2">Rules</Typography>
      {view.rules.map((r) => (
        <Box key={r.id} sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
          <Typography variant="body2">
            <b>
              Rule {r.number}
              {r === view.rules[0] ? (r.armed ? ', in force' : ', not armed') : r.armed ? '' : ', not armed'}
            </b>{' '}
            · {timeText(r.setAt, view.zone)}, {r.by}
            {r.note && `: ${r.note}`}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {ruleSays(r.rule, view.quantity)}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}
