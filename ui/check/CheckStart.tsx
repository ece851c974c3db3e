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
import PageLink from '../shared/PageLink';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { OpenCheck } from '@/contract/requests';
import type { CheckStartView } from '@/contract/checkViews';
import type { School } from '@/core/check/budget';
import type { ProcedureCode } from '@/core/procedure/codes';
import { procedureOf, proceduresFor } from '@/core/procedure/procedures';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { isAway } from '../taken/away';
import { StationHead } from '../station/StationHead';
import { AgainstInstrument, AgainstNature, AgainstStandards } from './Against';
import { CheckHistory } from './CheckHistory';
import { doubtOf, instrumentFor } from './inHand';
import { RecentChecks } from './RecentChecks';
import { Steps } from './Steps';
import { UsualField } from './UsualField';
import { zonesOf } from './zoneReading';

/** Begins a check: which channel, in which zone, by which procedure, against what, and is that good enough? */
export function CheckStart({ start, channelId }: { start: CheckStartView; channelId: string | null }) {
  const router = useRouter();
  const mayMeasure = useMay('measure');
  const [chosen, setChosen] = useState(
    start.channels.find((c) => c.id === channelId)?.id ?? start.channels[0]?.id ?? '',
  );
  const channel = start.channels.find((c) => c.id === chosen) ?? null;
  const fitting = channel ? proceduresFor(channel.quantity) : [];
  const [chosenProcedure, setProcedure] = useState<ProcedureCode | null>(null);
  const usual = usualOf(start, channel, fitting);
  const procedure = chosenProcedure && fitting.includes(chosenProcedure) ? chosenProcedure : usual;
  const { against, repeats: usualRepeats, isOfMaterial = false } = procedureOf(procedure);
  const fits = start.instruments.filter((i) => i.quantities.some((q) => q.quantity === channel?.quantity));
  const [instrumentId, setInstrumentId] = useState('');
  const instrument = instrumentFor(start.instruments, channel?.quantity, instrumentId);
  const standards = start.standards.filter((s) => s.quantity === channel?.quantity);
  const [standardIds, setStandardIds] = useState<readonly string[]>([]);
  const chosenStandards = standardIds.flatMap((id) => standards.find((s) => s.id === id) ?? []);
  const [zone, setZone] = useState('');
  const [reason, setReason] = useState('');
  const [material, setMaterial] = useState('');
  const [repeats, setRepeats] = useState('');
  const [school, setSchool] = useState<School>('gum');
  const [watch, setWatch] = useState('');
  const zones = [...new Set(start.channels.map((c) => c.zoneName))];
  const isDoubtful =
    against === 'instrument'
      ? instrument !== null && channel !== null && doubtOf(instrument, channel.quantity) !== null
      : chosenStandards.some((s) => s.overdueDays > 0);
  const isReady = { instrument: instrument !== null, standards: chosenStandards.length > 0, nature: true }[
    against
  ];
  const open = useMutation({
    mutationFn: () =>
      send<{ checkId: string }>('POST', `/api/v1/stations/${start.stationId}/checks`, {
        checkId: newId(),
        channelId: chosen,
        procedure,
        instrumentId: against === 'instrument' ? instrument!.id : null,
        standardIds: against === 'standards' ? chosenStandards.map((s) => s.id) : [],
        zoneName: zone,
        repeats: Number(repeats || usualRepeats),
        school,
        settleWindow: Number(watch || channel!.settleWindow),
        occurredAt: nowText(),
        ...(reason.trim() && { outOfDateReason: reason }),
        ...(isOfMaterial && { material }),
      } satisfies OpenCheck),
    onSuccess: ({ checkId }) => router.push(`/stations/${start.stationId}/check/${checkId}`),
  });
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
          {zonesOf(start).size > 1 && !isAway() && (
            <Button
              component={PageLink}
              href={`/stations/${start.stationId}/check/zones${zone ? `?zone=${encodeURIComponent(zone)}` : ''}`}
              sx={{ ...gloved, justifySelf: 'start' }}
            >
              Zone by zone: read all that hangs in one together
            </Button>
          )}
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
              setStandardIds([]);
              setProcedure(null);
              setRepeats('');
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
              <Link component={PageLink} href={`/stations/${start.stationId}/check/${channel.openCheckId}`}>
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
          {fitting.length > 1 && (
            <TextField
              select
              size="medium"
              label="How"
              value={procedure}
              onChange={(e) => {
                setProcedure(e.target.value as ProcedureCode);
                setRepeats('');
              }}
            >
              {fitting.map((code) => (
                <MenuItem key={code} value={code} sx={{ minHeight: 48 }}>
                  {procedureOf(code).name}
                </MenuItem>
              ))}
            </TextField>
          )}
          {against === 'instrument' && (
            <AgainstInstrument
              channel={channel}
              fits={fits}
              instrument={instrument}
              settles={Number(watch) || channel.settleWindow}
              onInstrument={setInstrumentId}
            />
          )}
          {against === 'standards' && (
            <AgainstStandards
              channel={channel}
              procedure={procedure}
              standards={standards}
              chosen={chosenStandards}
              onChosen={setStandardIds}
            />
          )}
          {against === 'nature' && <AgainstNature channel={channel} procedure={procedure} />}
          {isOfMaterial && (
            <TextField
              size="medium"
              label="Material"
              value={material}
              onChange={(e) => setMaterial(e.target.value)}
              helperText={materialText(channel, material)}
            />
          )}
          {isDoubtful && (
            <TextField
              size="medium"
              label="Why it is used all the same"
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
          )}
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'start' }}>
            <UsualField
              label={against === 'standards' ? 'Repeats, each' : 'Repeats'}
              value={repeats}
              usual={String(usualRepeats)}
              onChange={setRepeats}
            />
            <UsualField
              label="Watch for, s"
              value={watch}
              usual={String(channel.settleWindow)}
              help={`usually ${channel.settleWindow} s`}
              onChange={setWatch}
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
            disabled={!zone || !isReady || (isOfMaterial && !material.trim()) || open.isPending}
          >
            Begin
          </Button>
          <Steps procedure={procedure} quantity={channel.quantity} />
        </Box>
      )}
      {!mayMeasure && <Typography>You may look at checks; a technician makes them.</Typography>}
      {channel && <CheckHistory key={channel.id} stationId={start.stationId} channelId={channel.id} />}
      <RecentChecks start={start} />
    </>
  );
}

/** What the material means for what was proved before. */
function materialText({ last }: CheckStartView['channels'][number], material: string): string {
  if (!last?.material) return 'What is adjusted on one material proves nothing of another.';
  const day = last.openedAt.slice(0, 10);
  return material.trim() && material.trim().toLowerCase() !== last.material.toLowerCase()
    ? `Last checked on ${last.material}, ${day}: what that proved ends with the change of material.`
    : `Last checked on ${last.material}, ${day}.`;
}

/** The usual one that can be begun here: against standards only where the Kit has one. */
function usualOf(
  { instruments, standards }: CheckStartView,
  channel: CheckStartView['channels'][number] | null,
  fitting: readonly ProcedureCode[],
): ProcedureCode {
  const can = {
    instrument: instruments.some((i) => i.quantities.some((q) => q.quantity === channel?.quantity)),
    standards: standards.some((s) => s.quantity === channel?.quantity),
    nature: true,
  };
  return fitting.find((code) => can[procedureOf(code).against]) ?? fitting[0] ?? 'side-by-side';
}
