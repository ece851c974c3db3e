'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChannelSettingsView } from '@/contract/settingViews';
import { adjustmentWayNames } from '@/core/device/adjustmentWay';
import { describeChannel, inSentence, quantityOf } from '@/core/quantity/quantity';
import { unitsLike, valueFromBase, type Unit } from '@/core/quantity/unit';
import { limitsOf, type ChannelSettings, type SettingDifference } from '@/core/settings/channelSettings';
import { limitFields, limitNames, usualLimits, type Limits } from '@/core/settings/limits';
import { roundTo } from '@/core/quantity/format';
import { newId, Refusal, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Edits a channel's settings; staging them changes nothing at the logger yet. */
export function SettingsForm({
  base,
  channel: c,
  onStaged,
  onReload,
}: {
  base: string;
  channel: ChannelSettingsView;
  onStaged: () => Promise<void>;
  onReload: () => Promise<void>;
}) {
  const q = quantityOf(c.quantity);
  const start: ChannelSettings = (c.staged ?? c.written)?.settings ?? {
    description: describeChannel(c.zoneName, c.quantity),
    enabled: true,
    quantity: c.quantity,
    unit: q.unit,
    measurementInterval: 60,
    storageInterval: 600,
    adjustIn: 'device',
  };
  const [s, setS] = useState(start);
  const [measurement, setMeasurement] = useState(String(start.measurementInterval));
  const [storage, setStorage] = useState(String(start.storageInterval));
  const [usual, setUsual] = useState(0);
  // What the person was looking at when they began: a later edit by someone else is then noticed.
  const [basedOn, setBasedOn] = useState(c.newest);
  const stage = useMutation({
    mutationFn: () =>
      send('PUT', `${base}/staged-settings`, {
        revisionId: newId(),
        basedOn,
        settings: { ...s, measurementInterval: Number(measurement), storageInterval: Number(storage) },
      }),
    onSuccess: onStaged,
  });
  const problem = stage.error instanceof Refusal ? stage.error.problem : null;
  const field = problem?.field ?? '';
  const other =
    problem?.code === 'edited-meanwhile'
      ? (problem.extra as { newest: number; differences: SettingDifference[] })
      : null;
  return (
    <Box
      component="form"
      noValidate
      sx={{ mt: 1.5, p: 2, bgcolor: 'background.paper', border: 1, borderColor: 'divider' }}
      onSubmit={(e) => {
        e.preventDefault();
        stage.mutate();
      }}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fit, minmax(190px, 1fr))',
          gap: 2,
          alignItems: 'start',
        }}
      >
        <TextField
          label="Description"
          value={s.description}
          error={field.endsWith('description')}
          onChange={(e) => setS({ ...s, description: e.target.value })}
          helperText="ends up in file names"
        />
        <TextField
          label="Measurement interval, s"
          value={measurement}
          error={field.endsWith('measurementInterval')}
          onChange={(e) => setMeasurement(e.target.value)}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <TextField
          label="Storage interval, s"
          value={storage}
          error={field.endsWith('storageInterval')}
          onChange={(e) => setStorage(e.target.value)}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
        <TextField
          select
          label="Unit"
          value={s.unit}
          onChange={(e) => {
            const unit = e.target.value as Unit;
            // Limits are in the unit: they mean the same afterwards.
            setS({ ...s, unit, ...inUnit(limitsOf(s), unit, s.unit) });
            setUsual(usual + 1);
          }}
        >
          {unitsLike(q.unit).map((u) => (
            <MenuItem key={u} value={u}>
              {u}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Adjustments live"
          value={s.adjustIn}
          onChange={(e) => setS({ ...s, adjustIn: e.target.value as 'device' | 'record' })}
          helperText="never both for one difference"
        >
          <MenuItem value="device">in the device</MenuItem>
          <MenuItem value="record">as a correction over the record</MenuItem>
        </TextField>
        <FormControlLabel
          control={
            <Checkbox checked={s.enabled} onChange={(e) => setS({ ...s, enabled: e.target.checked })} />
          }
          label="Channel on"
        />
        <NumberField
          label="Reporting interval, s"
          value={s.reportingInterval ?? null}
          help="a remote screen may be that old; empty for none"
          low={1}
          high={86_400}
          onChange={(reportingInterval) => setS({ ...s, reportingInterval })}
        />
      </Box>
      {s.adjustIn === 'device' && (
        <Typography variant="body2">
          It takes an adjustment as {c.ways.map((w) => adjustmentWayNames[w]).join(' · ')}.
        </Typography>
      )}
      <Typography variant="h3" sx={{ mt: 1 }}>
        Limits in the logger, {s.unit}
      </Typography>
      <Box
        key={usual}
        sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(150px, 1fr))', gap: 2, mt: 1 }}
      >
        {limitFields.map((f) => (
          <NumberField
            key={f}
            label={limitNames[f]}
            value={s[f] ?? null}
            onChange={(value) => setS({ ...s, [f]: value })}
          />
        ))}
      </Box>
      {usualLimits[c.quantity] && (
        <Button
          size="small"
          sx={{ display: 'block', mb: 1 }}
          onClick={() => {
            setS({ ...s, ...inUnit(usualLimits[c.quantity]!, s.unit, q.unit) });
            setUsual(usual + 1);
          }}
        >
          Begin with limits for {inSentence(q.code)}
        </Button>
      )}
      <ProblemNote error={stage.error}>
        {other && (
          <Box sx={{ mt: 1 }}>
            {other.differences.map((d) => (
              <Typography key={d.field} variant="body2">
                {d.field}: yours “{d.wanted}”, theirs “{d.found}”
              </Typography>
            ))}
            <Button
              size="small"
              sx={{ mt: 1, mr: 1 }}
              onClick={() => {
                setBasedOn(other.newest);
                stage.reset();
                void onReload();
              }}
            >
              Keep mine: stage it on top of theirs
            </Button>
            <Button size="small" sx={{ mt: 1 }} onClick={() => void onStaged()}>
              Keep theirs
            </Button>
          </Box>
        )}
      </ProblemNote>
      <Button type="submit" variant="contained" sx={{ ...gloved, mt: 1 }} disabled={stage.isPending}>
        Stage
      </Button>
      <Typography component="span" variant="body2" color="text.secondary" sx={{ ml: 2 }}>
        Staging changes nothing at the logger; writing does.
      </Typography>
    </Box>
  );
}

/** Limits given in one unit, in another. */
const inUnit = (limits: Limits, unit: Unit, given: Unit): Limits => {
  const of = (v: number | null) => (v === null ? null : roundTo(valueFromBase(v, unit, given), 2));
  return {
    farLow: of(limits.farLow),
    low: of(limits.low),
    high: of(limits.high),
    farHigh: of(limits.farHigh),
  };
};
