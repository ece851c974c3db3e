'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import NextLink from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { CheckStartView } from '@/contract/views';
import { accuracyRatioText, type School } from '@/core/check/budget';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { isAway } from '../taken/away';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { StationHead } from '../station/StationHead';

/** Begins a check: which channel, in which zone, against what, and is that good enough? */
export function CheckStart({ start, channelId }: { start: CheckStartView; channelId: string | null }) {
  const router = useRouter();
  const mayMeasure = useMay('measure');
  const [chosen, setChosen] = useState(
    start.channels.find((c) => c.id === channelId)?.id ?? start.channels[0]?.id ?? '',
  );
  const channel = start.channels.find((c) => c.id === chosen) ?? null;
  const fits = start.instruments.filter((i) => i.quantities.some((q) => q.quantity === channel?.quantity));
  const [instrumentId, setInstrumentId] = useState('');
  const instrument =
    fits.find((i) => i.id === instrumentId) ?? fits.find((i) => i.overdueDays === 0) ?? fits[0] ?? null;
  const { zone: siteZone } = useStationBasics();
  const [zone, setZone] = useState('');
  const [reason, setReason] = useState('');
  const [repeats, setRepeats] = useState('3');
  const [school, setSchool] = useState<School>('gum');
  const [watch, setWatch] = useState('');
  const zones = [...new Set(start.channels.map((c) => c.zoneName))];
  const reference = instrument?.quantities.find((q) => q.quantity === channel?.quantity) ?? null;
  const open = useMutation({
    mutationFn: () =>
      send<{ checkId: string }>('POST', `/api/v1/stations/${start.stationId}/checks`, {
        checkId: newId(),
        channelId: chosen,
        instrumentId: instrument!.id,
        zoneName: zone,
        repeats: Number(repeats),
        school,
        settleWindow: Number(watch || channel!.settleWindow),
        occurredAt: nowText(),
        ...(reason.trim() && { outOfDateReason: reason }),
      }),
    onSuccess: ({ checkId }) => router.push(`/stations/${start.stationId}/check/${checkId}`),
  });
  const ratio = channel && reference ? channel.tolerance / reference.tolerance : null;
  return (
    <>
      <StationHead stationId={start.stationId} code={start.code} name={start.name} />
      {start.channels.length === 0 && (
        <Typography>
          No channel here has written settings and a sensor. Connect and write them first.
        </Typography>
      )}
      {channel && mayMeasure && (
        <Box
          component="form"
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            open.mutate();
          }}
          sx={{ maxWidth: 760, display: 'grid', gap: 2 }}
        >
          <Typography variant="h2">Begin a check</Typography>
          {isAway() && (
            <Alert severity="warning" variant="outlined" sx={{ color: 'text.primary' }}>
              To begin one the server has to be reached. A check that was begun before you left was taken
              along: its readings are typed from the logger’s display, and wait here.
            </Alert>
          )}
          <TextField
            select
            size="medium"
            label="Channel"
            value={chosen}
            onChange={(e) => {
              setChosen(e.target.value);
              setInstrumentId('');
            }}
          >
            {start.channels.map((c) => (
              <MenuItem key={c.id} value={c.id} sx={{ minHeight: 48 }}>
                {c.number} · {c.name} ({c.zoneName}){c.openCheckId ? ' · check open' : ''}
              </MenuItem>
            ))}
          </TextField>
          {channel.openCheckId && (
            <Typography>
              A check of this channel is open.{' '}
              <Link component={NextLink} href={`/stations/${start.stationId}/check/${channel.openCheckId}`}>
                Go on with it
              </Link>
              .
            </Typography>
          )}
          <TextField
            select
            size="medium"
            label="Zone you stand in"
            value={zone}
            onChange={(e) => setZone(e.target.value)}
            helperText="Say it: the reference of one zone on another zone’s sensor is the usual slip."
          >
            {zones.map((z) => (
              <MenuItem key={z} value={z} sx={{ minHeight: 48 }}>
                {z}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            size="medium"
            label="Reference instrument"
            value={instrument?.id ?? ''}
            onChange={(e) => setInstrumentId(e.target.value)}
            helperText={
              fits.length === 0
                ? `No instrument in the Kit measures ${quantityOf(channel.quantity).name.toLowerCase()}.`
                : ' '
            }
          >
            {fits.map((i) => (
              <MenuItem key={i.id} value={i.id} sx={{ minHeight: 48 }}>
                {i.name} {i.serial}
                {i.overdueDays > 0 ? ' · out of date' : ''}
              </MenuItem>
            ))}
          </TextField>
          {instrument && reference && ratio !== null && (
            <Box>
              <Typography>
                Sensor ±{channel.tolerance} ÷ reference ±{reference.tolerance} = <b>{ratio.toFixed(1)} : 1</b>
                , {accuracyRatioText(ratio)}.
              </Typography>
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                <StateMark state={instrument.overdueDays > 0 ? 'displaced' : 'sound'} />
                {instrument.overdueDays > 0 ? (
                  <b>
                    Calibration out of date for {instrument.overdueDays} d (due {instrument.dueOn}).
                  </b>
                ) : (
                  <>Calibration in date until {instrument.dueOn}.</>
                )}
              </Box>
            </Box>
          )}
          {instrument && instrument.overdueDays > 0 && (
            <TextField
              size="medium"
              label="Why it is used all the same"
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
          )}
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'start' }}>
            <TextField
              size="medium"
              label="Repeats"
              value={repeats}
              onChange={(e) => setRepeats(e.target.value)}
              sx={{ width: 110 }}
              slotProps={{ htmlInput: { inputMode: 'numeric' } }}
            />
            <TextField
              size="medium"
              label="Watch for, s"
              value={watch}
              placeholder={String(channel.settleWindow)}
              onChange={(e) => setWatch(e.target.value)}
              sx={{ width: 150 }}
              helperText={`usually ${channel.settleWindow} s`}
              slotProps={{ htmlInput: { inputMode: 'numeric' }, inputLabel: { shrink: true } }}
            />
            <ToggleButtonGroup
              exclusive
              value={school}
              onChange={(_, v: School | null) => v && setSchool(v)}
              aria-label="Which school judges"
            >
              <ToggleButton value="sum" sx={gloved}>
                Plain sum of tolerances
              </ToggleButton>
              <ToggleButton value="gum" sx={gloved}>
                GUM and Eₙ
              </ToggleButton>
            </ToggleButtonGroup>
          </Box>
          <ProblemNote error={open.error} />
          <Button
            type="submit"
            variant="contained"
            sx={{ ...gloved, justifySelf: 'start' }}
            disabled={!zone || !instrument || open.isPending}
          >
            Begin
          </Button>
        </Box>
      )}
      {!mayMeasure && <Typography>You may look at checks; a technician makes them.</Typography>}
      <Typography variant="h2" sx={{ mt: 4, mb: 1 }}>
        Checks made here
      </Typography>
      {start.recent.length === 0 && <Typography>None yet.</Typography>}
      {start.recent.map((r) => (
        <Box
          key={r.id}
          sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', py: 0.75, borderTop: 1, borderColor: 'divider' }}
        >
          <Box sx={{ color: 'text.secondary', minWidth: 190 }}>{timeText(r.openedAt, siteZone)}</Box>
          <Link component={NextLink} href={`/stations/${start.stationId}/check/${r.id}`}>
            {r.channelName}
          </Link>
          <Box>
            {r.outcome ?? 'open'}
            {r.difference !== null && `, ${formatDifference(r.difference, r.decimals)} ${r.unit}`}
          </Box>
        </Box>
      ))}
    </>
  );
}
