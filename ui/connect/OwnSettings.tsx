'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StageOwn, StoreSettings, WriteSettings } from '@/contract/requests';
import type { OwnView } from '@/contract/settingViews';
import {
  ownDifferences,
  ownFieldNames,
  ownFields,
  ownText,
  type OwnAbilities,
  type OwnSettings as Own,
} from '@/core/settings/ownSettings';
import { newId, Refusal, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';

interface WriteAnswer {
  state: string;
  differences: unknown[];
  says: string | null;
}

/** What the logger holds of itself: station ID, name, the external sensors it listens to; and whether it keeps all that. */
export function OwnSettings({
  stationId,
  own,
  onChanged,
}: {
  stationId: string;
  own: OwnView;
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const maySetUp = useMay('set-up');
  const [editing, setEditing] = useState(false);
  const base = `/api/v1/stations/${stationId}/settings`;
  const write = useMutation({
    mutationFn: (revisionId: string) =>
      send<WriteAnswer>('POST', `${base}/own/write`, {
        actionId: newId(),
        revisionId,
      } satisfies WriteSettings),
    onSettled: onChanged,
  });
  const discard = useMutation({
    mutationFn: () => send('DELETE', `${base}/own`),
    onSuccess: onChanged,
  });
  const store = useMutation({
    mutationFn: () =>
      send<WriteAnswer>('POST', `${base}/store`, { actionId: newId() } satisfies StoreSettings),
    onSettled: onChanged,
  });
  const renew = useMutation({
    mutationFn: (profileCode: string) => send('PUT', `/api/v1/stations/${stationId}/logger`, { profileCode }),
    onSuccess: onChanged,
  });
  const { takes, staged, written, newer } = own;
  if (!takes && !own.keepsWhenTold && !own.newer) return null;
  const state = staged || own.differences.length > 0 ? 'displaced' : written ? 'sound' : 'missing';
  const failed = [write.data, store.data].find((a) => a && a.state !== 'done');
  return (
    <Box component="section" aria-label="The logger itself" sx={{ mt: 3, display: 'grid', gap: 0.75 }}>
      <Typography variant="h2">The logger itself</Typography>
      {takes && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state={state} />
          <Typography>
            {written
              ? `Station ID ${written.stationId}, name “${written.name}”${listening(takes, written)}`
              : 'Nobody told it which station it is: its files carry no ID.'}
          </Typography>
        </Box>
      )}
      {staged && (
        <Typography variant="body2">
          <b>Staged, not written:</b>{' '}
          {written
            ? ownDifferences(staged.settings, written)
                .map((d) => `${ownFieldNames[d.field]} ${d.found} → ${d.wanted}`)
                .join(', ') || 'no change'
            : ownFields.map((f) => `${ownFieldNames[f]} ${ownText(staged.settings, f)}`).join(', ')}
        </Typography>
      )}
      {own.differences.length > 0 && (
        <Box role="alert">
          <b>Read back differs, so it is not called written:</b>{' '}
          {own.differences
            .map((d) => `${ownFieldNames[d.field]}: wrote “${d.wanted}”, it holds “${d.found}”`)
            .join('; ')}
        </Box>
      )}
      {own.unstored && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state="displaced" />
          <Typography>
            What was written <b>lasts until power-off only</b>: nobody told it to store.
          </Typography>
        </Box>
      )}
      {newer && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
          <Typography>
            Its profile has a revision {newer.revision}: what it can be told may be more there than here.
          </Typography>
          {maySetUp && (
            <Button sx={gloved} disabled={renew.isPending} onClick={() => renew.mutate(newer.profileCode)}>
              Go by revision {newer.revision}
            </Button>
          )}
        </Box>
      )}
      {mayMeasure && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {staged && !editing && (
            <>
              <Button
                variant="contained"
                sx={gloved}
                disabled={write.isPending}
                onClick={() => write.mutate(staged.id)}
              >
                {write.isPending ? 'Writing …' : 'Write it'}
              </Button>
              <Button sx={gloved} disabled={discard.isPending} onClick={() => discard.mutate()}>
                Discard it
              </Button>
            </>
          )}
          {own.unstored && (
            <Button variant="contained" sx={gloved} disabled={store.isPending} onClick={() => store.mutate()}>
              {store.isPending ? 'Storing …' : 'Store for good'}
            </Button>
          )}
          {takes && (
            <Button sx={gloved} onClick={() => setEditing((e) => !e)}>
              {editing ? 'Close' : 'Change ID and name'}
            </Button>
          )}
        </Box>
      )}
      <Box role="status">
        {failed
          ? `${failed.state === 'unknown' ? 'Outcome unknown' : 'Not done'}: ${failed.says}`
          : store.data && !own.unstored
            ? 'Stored for good.'
            : write.data?.differences.length === 0 && !staged
              ? 'Written and read back equal.'
              : ''}
      </Box>
      <ProblemNote error={write.error ?? discard.error ?? store.error ?? renew.error} />
      {editing && takes && (
        <OwnForm
          base={base}
          own={own}
          takes={takes}
          onStaged={async () => {
            await onChanged();
            setEditing(false);
          }}
        />
      )}
    </Box>
  );
}

const listening = ({ activates }: OwnAbilities, written: Own) =>
  activates.length === 0 ? '.' : `; it listens to external sensors on ${ownText(written, 'activated')}.`;

function OwnForm({
  base,
  own,
  takes,
  onStaged,
}: {
  base: string;
  own: OwnView;
  takes: OwnAbilities;
  onStaged: () => Promise<void>;
}) {
  const [s, setS] = useState<Own>(own.staged?.settings ?? own.written ?? own.proposed!);
  const [basedOn] = useState(own.newest);
  const stage = useMutation({
    mutationFn: () =>
      send('PUT', `${base}/own`, { revisionId: newId(), basedOn, settings: s } satisfies StageOwn),
    onSuccess: onStaged,
  });
  const field = stage.error instanceof Refusal ? (stage.error.problem.field ?? '') : '';
  return (
    <Box
      component="form"
      noValidate
      sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1 }}
      onSubmit={(e) => {
        e.preventDefault();
        stage.mutate();
      }}
    >
      <TextField
        label="Station ID"
        value={s.stationId}
        error={field.endsWith('stationId')}
        helperText={`up to ${takes.idLength} characters; stands in its files`}
        onChange={(e) => setS({ ...s, stationId: e.target.value })}
      />
      <TextField
        label="Name in the logger"
        value={s.name}
        error={field.endsWith('name')}
        helperText={`up to ${takes.nameLength} characters`}
        onChange={(e) => setS({ ...s, name: e.target.value })}
      />
      {takes.activates.map((terminal) => (
        <FormControlLabel
          key={terminal}
          label={`Listens to the external sensor on ${terminal}${own.proposed?.activated.includes(terminal) ? ' (something hangs there)' : ''}`}
          control={
            <Checkbox
              checked={s.activated.includes(terminal)}
              onChange={(e) =>
                setS({
                  ...s,
                  activated: e.target.checked
                    ? [...s.activated, terminal]
                    : s.activated.filter((t) => t !== terminal),
                })
              }
            />
          }
        />
      ))}
      <Button type="submit" variant="contained" sx={gloved} disabled={stage.isPending}>
        Stage it
      </Button>
      <Box sx={{ flexBasis: '100%' }}>
        <ProblemNote error={stage.error} />
      </Box>
    </Box>
  );
}
