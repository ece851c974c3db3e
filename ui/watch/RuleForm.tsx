'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ChannelWatchView } from '@/contract/watch';
import { quantityOf } from '@/core/quantity/quantity';
import { limitFields, limitNames } from '@/core/settings/limits';
import type { Gate, WatchHours, WatchRule } from '@/core/watch/rule';
import { NumberField } from '../shared/NumberField';
import { fieldGrid } from '../shared/theme';
import { DurationField } from './DurationField';

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const wholeDay: WatchHours = { months: null, weekdays: null, fromMinute: 8 * 60, untilMinute: 18 * 60 };

/** What is watched of a channel, field by field; each change is tried at once. */
export function RuleForm({
  view,
  rule,
  onChange,
}: {
  view: ChannelWatchView;
  rule: WatchRule;
  onChange: (to: (now: WatchRule) => WatchRule) => void;
}) {
  const { unit } = view;
  const set = (part: Partial<WatchRule>) => onChange((now) => ({ ...now, ...part }));
  const twins = view.others.filter((o) => quantityOf(o.quantity).unit === unit);
  return (
    <Box
      component="form"
      aria-label="What is watched"
      onSubmit={(e) => e.preventDefault()}
      sx={{ display: 'grid', gap: 1 }}
    >
      <Box sx={fieldGrid(165)}>
        {limitFields.map((f) => (
          <NumberField
            key={f}
            label={`${limitNames[f]}, ${unit}`}
            value={rule.limits[f]}
            onChange={(n) => onChange((now) => ({ ...now, limits: { ...now.limits, [f]: n } }))}
          />
        ))}
        <NumberField
          label={`Back by, ${unit}`}
          value={rule.hysteresis}
          low={0}
          empty={false}
          onChange={(n) => set({ hysteresis: n ?? 0 })}
        />
        <DurationField
          label="Rings after"
          unit="min"
          seconds={rule.delay}
          onChange={(s) => set({ delay: s ?? 0 })}
        />
        <DurationField
          label="Over after"
          unit="min"
          seconds={rule.returnDelay}
          onChange={(s) => set({ returnDelay: s ?? 0 })}
        />
        <DurationField
          label="No value for"
          unit="min"
          seconds={rule.silentAfter}
          empty
          onChange={(s) => set({ silentAfter: s })}
        />
        <DurationField
          label="Oldest that rings"
          unit="h"
          seconds={rule.latest}
          onChange={(s) => set({ latest: s ?? rule.latest })}
        />
        <NumberField
          label={`Moves by, ${unit}`}
          value={rule.rate?.by ?? null}
          low={0}
          onChange={(n) => set({ rate: n === null ? null : { within: rule.rate?.within ?? 3600, by: n } })}
        />
        {rule.rate && (
          <DurationField
            label="… within"
            unit="min"
            seconds={rule.rate.within}
            onChange={(s) => set({ rate: { by: rule.rate!.by, within: s ?? 3600 } })}
          />
        )}
      </Box>
      <Box sx={fieldGrid(200)}>
        <TextField
          select
          label="Twin: rings where both part"
          value={rule.twin?.channelId ?? ''}
          onChange={(e) =>
            set({
              twin: e.target.value
                ? {
                    channelId: e.target.value,
                    tolerance: rule.twin?.tolerance ?? 3 * quantityOf(view.quantity).tolerance,
                    delay: rule.twin?.delay ?? 1800,
                  }
                : null,
            })
          }
        >
          <MenuItem value="">none</MenuItem>
          {twins.map((o) => (
            <MenuItem key={o.id} value={o.id}>
              {o.name}
            </MenuItem>
          ))}
        </TextField>
        {rule.twin && (
          <>
            <NumberField
              label={`… by more than, ${unit}`}
              value={rule.twin.tolerance}
              empty={false}
              onChange={(n) => set({ twin: { ...rule.twin!, tolerance: n ?? 0 } })}
            />
            <DurationField
              label="… for"
              unit="min"
              seconds={rule.twin.delay}
              onChange={(s) => set({ twin: { ...rule.twin!, delay: s ?? 0 } })}
            />
          </>
        )}
        <GateFields view={view} gate={rule.gate} onChange={(gate) => set({ gate })} />
      </Box>
      <HoursFields hours={rule.hours} onChange={(hours) => set({ hours })} />
    </Box>
  );
}

function GateFields({
  view,
  gate,
  onChange,
}: {
  view: ChannelWatchView;
  gate: Gate | null;
  onChange: (gate: Gate | null) => void;
}) {
  const other = gate && view.others.find((o) => o.id === gate.channelId);
  const unit = other ? quantityOf(other.quantity).unit : '';
  return (
    <>
      <TextField
        select
        label="Limits hold only while"
        value={gate?.channelId ?? ''}
        onChange={(e) =>
          onChange(
            e.target.value
              ? { side: 'above', limit: 0, hysteresis: 0, ...gate, channelId: e.target.value }
              : null,
          )
        }
      >
        <MenuItem value="">always</MenuItem>
        {view.others.map((o) => (
          <MenuItem key={o.id} value={o.id}>
            {o.name}
          </MenuItem>
        ))}
      </TextField>
      {gate && (
        <>
          <TextField
            select
            label="… is"
            value={gate.side}
            onChange={(e) => onChange({ ...gate, side: e.target.value as Gate['side'] })}
          >
            <MenuItem value="above">above</MenuItem>
            <MenuItem value="below">below</MenuItem>
          </TextField>
          <NumberField
            label={`… this, ${unit}`}
            value={gate.limit}
            empty={false}
            onChange={(n) => onChange({ ...gate, limit: n ?? 0 })}
          />
          <NumberField
            label={`… back by, ${unit}`}
            value={gate.hysteresis}
            low={0}
            empty={false}
            onChange={(n) => onChange({ ...gate, hysteresis: n ?? 0 })}
          />
        </>
      )}
    </>
  );
}

function HoursFields({
  hours,
  onChange,
}: {
  hours: WatchHours | null;
  onChange: (hours: WatchHours | null) => void;
}) {
  return (
    <Box>
      <FormControlLabel
        control={<Checkbox checked={hours !== null} onChange={(_, on) => onChange(on ? wholeDay : null)} />}
        label="Only at some hours, days or months"
      />
      {hours && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
          <TimeField
            label="From"
            minute={hours.fromMinute}
            onChange={(fromMinute) => onChange({ ...hours, fromMinute })}
          />
          <TimeField
            label="Until"
            minute={hours.untilMinute}
            onChange={(untilMinute) => onChange({ ...hours, untilMinute })}
          />
          <Choice
            label="Days"
            names={weekdays}
            chosen={hours.weekdays}
            onChange={(w) => onChange({ ...hours, weekdays: w })}
          />
          <Choice
            label="Months"
            names={months}
            chosen={hours.months}
            onChange={(m) => onChange({ ...hours, months: m })}
          />
        </Box>
      )}
    </Box>
  );
}

const two = (n: number) => String(n).padStart(2, '0');

function TimeField({
  label,
  minute,
  onChange,
}: {
  label: string;
  minute: number;
  onChange: (minute: number) => void;
}) {
  return (
    <TextField
      type="time"
      label={label}
      value={`${two(Math.floor(minute / 60))}:${two(minute % 60)}`}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(e) => {
        const [h, m] = e.target.value.split(':').map(Number);
        if (h !== undefined && m !== undefined && Number.isFinite(h + m)) onChange(60 * h + m);
      }}
    />
  );
}

/** Some of a few, by their numbers from 1; all of them is none chosen. */
function Choice({
  label,
  names,
  chosen,
  onChange,
}: {
  label: string;
  names: readonly string[];
  chosen: readonly number[] | null;
  onChange: (chosen: readonly number[] | null) => void;
}) {
  return (
    <TextField
      select
      label={label}
      sx={{ minWidth: 160, maxWidth: '100%' }}
      slotProps={{
        inputLabel: { shrink: true },
        select: {
          multiple: true,
          displayEmpty: true,
          renderValue: (v) => (v as number[]).map((n) => names[n - 1]).join(', ') || 'all',
        },
      }}
      value={chosen ?? []}
      onChange={(e) => {
        const list = (e.target.value as unknown as number[]).toSorted((a, b) => a - b);
        onChange(list.length === 0 || list.length === names.length ? null : list);
      }}
    >
      {names.map((n, i) => (
        <MenuItem key={n} value={i + 1}>
          {n}
        </MenuItem>
      ))}
    </TextField>
  );
}
