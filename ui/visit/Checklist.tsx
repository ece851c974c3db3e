'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import {
  checklistKinds,
  checklistWords,
  type ChecklistItem,
  type ChecklistKind,
  type VisitView,
} from '@/contract/visits';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { placeOf } from '../round/Round';
import { newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { clockText } from '../shared/time';

/** What is due here, by what the application knows, and what people added; ticked as it is done. */
export function Checklist({ visit, onDone }: { visit: VisitView; onDone: () => Promise<void> }) {
  const mayMeasure = useMay('measure');
  const bring = [...new Set(visit.checklist.flatMap((c) => (c.ticked ? [] : c.bring)))];
  return (
    <Box component="section" aria-labelledby="checklist">
      <Typography variant="h2" id="checklist" sx={{ mb: 1 }}>
        Checklist
      </Typography>
      {visit.checklist.length === 0 && <Typography>Nothing is due here.</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {visit.checklist.map((c) => (
          <Line key={c.item} visit={visit} line={c} mayTick={mayMeasure} onDone={onDone} />
        ))}
      </Box>
      {bring.length > 0 && (
        <Typography variant="body2" sx={{ mt: 0.5 }}>
          <b>In the bag</b> {bring.join(' · ')}
        </Typography>
      )}
      {mayMeasure && <AddLine visit={visit} onDone={onDone} />}
    </Box>
  );
}

function Line({
  visit,
  line: c,
  mayTick,
  onDone,
}: {
  visit: VisitView;
  line: ChecklistItem;
  mayTick: boolean;
  onDone: () => Promise<void>;
}) {
  const tick = useFieldWrite<'checklistTick'>(onDone);
  const says = c.finding ? `${c.finding.text} · ${c.says}` : c.says;
  return (
    <Box component="li" sx={{ borderBottom: 1, borderColor: 'divider' }}>
      <FormControlLabel
        sx={{ display: 'flex', minHeight: 48, alignItems: 'flex-start', mr: 0 }}
        control={
          <Checkbox
            checked={tick.isPending ? tick.variables.body.done : c.ticked !== null}
            disabled={!mayTick || tick.isPending}
            onChange={(e) =>
              tick.mutate({
                kind: 'checklistTick',
                stationId: visit.stationId,
                where: visit.code,
                zone: visit.zone,
                body: {
                  tickId: newId(),
                  item: c.item,
                  says: says.slice(0, 400),
                  done: e.target.checked,
                  occurredAt: nowText(),
                },
              })
            }
          />
        }
        label={
          <Box sx={{ py: 1.25 }}>
            {c.kind === 'put-back' && <b>To put back: </b>}
            {c.says}
            {c.finding && (
              <Box
                component="span"
                sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: '0.9rem' }}
              >
                <StateMark state={c.finding.state} size={14} /> {c.finding.text}
              </Box>
            )}
            {(c.by ?? c.ticked) && (
              <Box component="span" sx={{ display: 'block', fontSize: '0.88rem', color: 'text.secondary' }}>
                {[
                  c.by && `added by ${c.by}`,
                  c.ticked && `done ${clockText(c.ticked.at, visit.zone)} by ${c.ticked.by}`,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Box>
            )}
          </Box>
        }
      />
      {c.finding && (
        <Link
          component={PageLink}
          href={placeOf(visit.stationId, c.finding.stone, c.finding.channelId)}
          sx={{ display: 'inline-block', ml: 5.25, mb: 1 }}
        >
          Go there
        </Link>
      )}
      <ProblemNote error={tick.error} />
    </Box>
  );
}

function AddLine({ visit, onDone }: { visit: VisitView; onDone: () => Promise<void> }) {
  const [kind, setKind] = useState<ChecklistKind>('put-back');
  const [says, setSays] = useState('');
  const add = useFieldWrite<'checklistAdd'>(async () => {
    setSays('');
    await onDone();
  });
  return (
    <Box
      component="form"
      aria-label="Add to the checklist"
      onSubmit={(e) => {
        e.preventDefault();
        if (says.trim())
          add.mutate({
            kind: 'checklistAdd',
            stationId: visit.stationId,
            where: visit.code,
            zone: visit.zone,
            body: { lineId: newId(), kind, says: says.trim(), occurredAt: nowText() },
          });
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.5 }}
    >
      <TextField
        select
        label="Kind"
        value={kind}
        onChange={(e) => setKind(e.target.value as ChecklistKind)}
        sx={{ minWidth: 230 }}
      >
        {checklistKinds.map((k) => (
          <MenuItem key={k} value={k} sx={{ minHeight: 48 }}>
            {checklistWords[k]}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="What"
        value={says}
        onChange={(e) => setSays(e.target.value)}
        helperText={kind === 'put-back' ? 'outputs in hand, limits tightened, a strip pulled' : ' '}
        slotProps={{ htmlInput: { maxLength: 200 } }}
        sx={{ flexGrow: 1, minWidth: 200 }}
      />
      <Button type="submit" sx={gloved} disabled={!says.trim() || add.isPending}>
        Add
      </Button>
      <ProblemNote error={add.error} />
    </Box>
  );
}
