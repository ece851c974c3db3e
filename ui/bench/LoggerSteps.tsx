'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { measuredBeside, type Measured } from '@/core/circuit/session';
import { loggerUncertainty } from '@/core/circuit/steps';
import { outputOf } from '@/core/device/profile';
import { numberOf } from '../shared/numberOf';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import type { Working } from './working';
import { valueText, type BenchChannel } from './texts';

/** A value typed from a display, or none. */
export function ValueEntry({
  label,
  unit,
  isBusy,
  none,
  onRead,
}: {
  label: string;
  unit: string;
  isBusy: boolean;
  /** What to press where nothing is shown; null where something always is. */
  none: string | null;
  onRead: (shows: number | null, typed: string) => void;
}) {
  const [text, setText] = useState('');
  const value = numberOf(text);
  return (
    <Box
      component="form"
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault();
        if (!Number.isFinite(value)) return;
        onRead(value, text.trim());
        setText('');
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mt: 1 }}
    >
      <TextField
        size="medium"
        label={`${label}, ${unit}`}
        value={text}
        autoComplete="off"
        error={text.trim() !== '' && !Number.isFinite(value)}
        onChange={(e) => setText(e.target.value)}
        sx={{ width: 220 }}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      />
      <Button type="submit" variant="contained" sx={gloved} disabled={isBusy || !Number.isFinite(value)}>
        Keep it
      </Button>
      {none && (
        <Button sx={gloved} disabled={isBusy} onClick={() => onRead(null, 'none')}>
          {none}
        </Button>
      )}
    </Box>
  );
}

/** Takes the newest value that was logged, with its time. */
function TakeLogged({
  channel,
  isBusy,
  onTake,
}: {
  channel: BenchChannel;
  isBusy: boolean;
  onTake: (shows: number, typed: string) => void;
}) {
  const { zone } = useStationBasics();
  const { value, at } = channel;
  if (value === null || at === null) return null;
  return (
    <Button
      variant="contained"
      sx={gloved}
      disabled={isBusy}
      onClick={() => onTake(value, `${value}, logged ${at.slice(0, 16)}Z`)}
    >
      Take {valueText(value, channel)}, logged {timeText(at, zone)}
    </Button>
  );
}

/** What the logger shows before anything is touched, taken from its record or typed from its display. */
export function AsFound(w: Working) {
  const { channel, acts, sensor, session } = w;
  const output = outputOf(sensor.profile, session.setup.outputKey)!;
  const measured: Measured = {
    ...measuredBeside('after'),
    kind: 'as-found',
    u: loggerUncertainty(output.range, output.resolution),
  };
  return (
    <>
      <TakeLogged
        channel={channel}
        isBusy={acts.isBusy}
        onTake={(shows, typed) => acts.read(measured, shows, typed)}
      />
      <ValueEntry
        label="Or as its display shows it"
        unit={channel.unit}
        isBusy={acts.isBusy}
        none="It shows no value"
        onRead={(shows, typed) => acts.read(measured, shows, typed)}
      />
    </>
  );
}

/** What a controller does that acts on a missing value, and its outputs put in hand with a way back. */
export function InHand({ acts, sensor, onSeen }: Working & { readonly onSeen: () => void }) {
  const [text, setText] = useState('');
  return (
    <>
      <Typography>
        While its leads are off the logger logs no value, or a wrong one. A controller that acts on{' '}
        {sensor.serial} may heat, ventilate or open a gate on it. Put its outputs in hand first; giving them
        back then stands on the visit’s list, and whoever leaves is asked for it.
      </Typography>
      <Box
        component="form"
        aria-label="Put in hand"
        onSubmit={(e) => {
          e.preventDefault();
          if (!text.trim()) return;
          acts.putInHand(`${text.trim()} in hand`);
          setText('');
          onSeen();
        }}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}
      >
        <TextField
          size="medium"
          label="Output in hand"
          placeholder="fan, heater, gate"
          value={text}
          onChange={(e) => setText(e.target.value)}
          sx={{ width: 240 }}
          slotProps={{ htmlInput: { maxLength: 120 } }}
        />
        <Button type="submit" sx={gloved} disabled={acts.isBusy || !text.trim()}>
          It is in hand
        </Button>
        <Button sx={gloved} onClick={onSeen}>
          Nothing acts on it
        </Button>
      </Box>
    </>
  );
}

/** What the logger shows with everything back: read before the window closes behind whoever leaves. */
export function AfterReconnecting({ channel, acts, sensor, session }: Working) {
  const lastOhms = Math.max(
    0,
    ...session.readings.filter((r) => r.measured.kind === 'ohms').map((r) => r.at),
  );
  // A value from before the leads were back says nothing of how they are now.
  const isSince = channel.at !== null && Date.parse(channel.at) > lastOhms;
  return (
    <>
      <Typography>
        {sensor.offLineSince
          ? 'Leads on first.'
          : 'Wait for a value that was measured after reconnecting. Is it plausible?'}
      </Typography>
      {isSince && !sensor.offLineSince && (
        <TakeLogged
          channel={channel}
          isBusy={acts.isBusy}
          onTake={(shows, typed) => acts.read(measuredBeside('after'), shows, typed)}
        />
      )}
      <ValueEntry
        label="Or as its display shows it"
        unit={channel.unit}
        isBusy={acts.isBusy}
        none="It shows no value"
        onRead={(shows, typed) => acts.read(measuredBeside('after'), shows, typed)}
      />
    </>
  );
}
