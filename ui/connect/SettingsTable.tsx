'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChannelSettingsView, OwnView } from '@/contract/settingViews';
import { formatAge } from '@/core/quantity/format';
import { inSentence } from '@/core/quantity/quantity';
import type { ChannelSettings, SettingDifference } from '@/core/settings/channelSettings';
import { limitFields, limitNames } from '@/core/settings/limits';
import { Age } from '../shared/Age';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { LiveTest } from './LiveTest';
import { OnWrite } from './OnWrite';
import { ReadDry } from './ReadDry';
import { SettingsForm } from './SettingsForm';
import { WholeLogger } from './WholeLogger';

interface WriteAnswer {
  state: string;
  differences: SettingDifference[];
  says: string | null;
}

/** Every channel with what is written and what is only staged; staged is not written until read back. */
export function SettingsTable({
  stationId,
  own,
  channels,
  onChanged,
}: {
  stationId: string;
  own: OwnView | null;
  channels: ChannelSettingsView[];
  onChanged: () => Promise<void>;
}) {
  if (channels.length === 0) return <Typography>No channel yet: connect a transmitter first.</Typography>;
  return (
    <Box>
      {own && <OnWrite own={own} />}
      <WholeLogger stationId={stationId} own={own} channels={channels} onChanged={onChanged} />
      {channels.map((c) => (
        <ChannelLine key={c.channelId} stationId={stationId} channel={c} onChanged={onChanged} />
      ))}
    </Box>
  );
}

function ChannelLine({
  stationId,
  channel: c,
  onChanged,
}: {
  stationId: string;
  channel: ChannelSettingsView;
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const [editing, setEditing] = useState(false);
  const base = `/api/v1/stations/${stationId}/channels/${c.channelId}`;
  const write = useMutation({
    mutationFn: () =>
      send<WriteAnswer>('POST', `${base}/write-settings`, { actionId: newId(), revisionId: c.staged!.id }),
    onSettled: onChanged,
  });
  const discard = useMutation({
    mutationFn: () => send('DELETE', `${base}/staged-settings`),
    onSuccess: onChanged,
  });
  const differences = c.staged?.differences ?? [];
  const state = c.staged ? 'displaced' : c.written ? 'sound' : 'missing';
  return (
    <Box
      component="section"
      aria-label={`Settings of channel ${c.number}`}
      sx={{
        py: 1.25,
        borderTop: 1,
        borderColor: 'divider',
        bgcolor: c.staged ? 'ground.ochreWash' : undefined,
        px: 1,
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
        <Box sx={{ flexGrow: 1, minWidth: 300 }}>
          <Typography variant="h3">
            {c.number} ·{' '}
            {(c.staged ?? c.written)?.settings.description ?? `${c.zoneName}, ${inSentence(c.quantity)}`}
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state={state} size={16} />
            <Typography variant="body2">
              {c.written ? (
                <>
                  Written <Age at={c.written.writtenAt!} />: {summary(c.written.settings)}
                </>
              ) : (
                'Nothing written yet'
              )}
            </Typography>
          </Box>
          {c.staged && (
            <Typography variant="body2" component="div" sx={{ mt: 0.5 }}>
              <b>Staged, not written</b> by {c.staged.stagedBy} <Age at={c.staged.stagedAt} />:{' '}
              {c.changes.length
                ? c.changes.map((d) => `${d.field} ${d.found} → ${d.wanted}`).join(', ')
                : summary(c.staged.settings)}
            </Typography>
          )}
          {differences.length > 0 && (
            <Box role="alert" sx={{ mt: 0.5 }}>
              <b>Read back differs, so it is not called written:</b>
              {differences.map((d) => (
                <Typography key={d.field} variant="body2">
                  {d.field}: wrote “{d.wanted}”, the logger holds “{d.found}”
                </Typography>
              ))}
            </Box>
          )}
        </Box>
        {mayMeasure && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start' }}>
            {c.staged && (
              <Button
                variant="contained"
                sx={gloved}
                disabled={write.isPending || editing}
                onClick={() => write.mutate()}
              >
                {write.isPending ? 'Writing …' : 'Write'}
              </Button>
            )}
            {c.staged && (
              <Button sx={gloved} disabled={discard.isPending || editing} onClick={() => discard.mutate()}>
                Discard
              </Button>
            )}
            {c.fed && c.written && <LiveTest stationId={stationId} channelId={c.channelId} />}
            <Button sx={gloved} onClick={() => setEditing((e) => !e)}>
              {editing ? 'Close' : 'Edit'}
            </Button>
          </Box>
        )}
      </Box>
      {write.data && write.data.state !== 'done' && (
        <Typography role="status" sx={{ mt: 0.5 }}>
          <b>{write.data.state === 'unknown' ? 'Outcome unknown' : 'Not written'}:</b> {write.data.says}
        </Typography>
      )}
      {write.data?.state === 'done' && write.data.differences.length === 0 && !c.staged && (
        <Typography role="status" sx={{ mt: 0.5 }}>
          Written and read back equal.
        </Typography>
      )}
      <ProblemNote error={write.error ?? discard.error} />
      {mayMeasure && c.wetMargin !== null && c.written && !editing && (
        <ReadDry base={base} channel={c} onStaged={onChanged} />
      )}
      {editing && (
        <SettingsForm
          base={base}
          channel={c}
          onStaged={async () => {
            await onChanged();
            setEditing(false);
          }}
          onReload={onChanged}
        />
      )}
    </Box>
  );
}

const summary = (s: ChannelSettings) =>
  `${s.enabled ? 'on' : 'off'}, ${s.unit}, measured every ${formatAge(s.measurementInterval)}, stored every ${formatAge(s.storageInterval)}${s.reportingInterval ? `, sent on every ${formatAge(s.reportingInterval)}` : ''}, adjusted in the ${s.adjustIn}${limitsText(s)}${s.wetAbove == null ? '' : `, wet from ${s.wetAbove} ${s.unit} on`}`;

const limitsText = (s: ChannelSettings) => {
  const set = limitFields.filter((f) => s[f] != null);
  return set.length === 0
    ? ''
    : `, limits ${set.map((f) => `${limitNames[f].toLowerCase()} ${s[f]}`).join(', ')}`;
};
