'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import FormControlLabel from '@mui/material/FormControlLabel';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useMemo, useState } from 'react';
import type { BenchSensorView, BenchView, MeterView } from '@/contract/bench';
import { isDead, isSame, lastOfEach, measuredOf } from '@/core/circuit/session';
import { leadsOff } from '@/core/circuit/rig';
import { planBench } from '@/core/circuit/steps';
import { rigOfSession } from '@/core/circuit/verdict';
import { useUnsent } from '../outbox/outbox';
import { useMay, usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { StationHead } from '../station/StationHead';
import { Diagram } from './Diagram';
import { PlanTable } from './PlanTable';
import { Ranking } from './Ranking';
import { SetupFields } from './setupFields';
import { Steps } from './Steps';
import { useSession } from './useSession';
import { useWeighing } from './useWeighing';
import { Verdict } from './Verdict';
import { withUnsent } from './withUnsent';

/** One sensor on the bench: planned, measured, weighed. */
export function SensorBench({ initial, installationId }: { initial: BenchView; installationId: string }) {
  const { data, error, changed } = useView<BenchView>(
    `/api/v1/stations/${initial.stationId}/bench`,
    initial,
    15_000,
  );
  const person = usePerson();
  const unsent = useUnsent().filter((i) => i.person.id === person.id);
  const view = withUnsent(data, unsent);
  const sensor = view.sensors.find((s) => s.installationId === installationId);
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name} />
      <ProblemNote error={error} />
      {sensor ? (
        <OnBench view={view} sensor={sensor} changed={changed} key={sensor.installationId} />
      ) : (
        <Typography>
          Nothing that a meter judges hangs there any more.{' '}
          <PageLink href={`/stations/${view.stationId}/bench`}>All of this station</PageLink>
        </Typography>
      )}
    </>
  );
}

function OnBench({
  view,
  sensor,
  changed,
}: {
  view: BenchView;
  sensor: BenchSensorView;
  changed: () => Promise<void>;
}) {
  const { stationId, meters, zone } = view;
  const mayMeasure = useMay('measure');
  const open = sensor.sessions.find((s) => s.endedAt === null) ?? null;
  const [channelId, setChannelId] = useState(sensor.channels[0]?.channelId ?? '');
  const [meterId, setMeterId] = useState(open?.meterId ?? meters[0]?.id ?? '');
  const [atSensor, setAtSensor] = useState(false);
  const [input, setInput] = useState(sensor.setup.input);
  const [hovered, setHovered] = useState<number | null>(null);
  const channel = sensor.channels.find((c) => c.channelId === (open?.channelId ?? channelId)) ?? null;
  const meter = meters.find((m) => m.id === (open?.meterId ?? meterId)) ?? null;
  const acts = useSession(stationId, sensor, open, changed);
  const setup = useMemo(
    () => open?.setup ?? (channel && { outputKey: channel.outputKey, leads: sensor.setup.leads, input }),
    [open, channel, sensor.setup.leads, input],
  );
  const isContact = sensor.profile.connection.kind === 'pulse';
  const rig = useMemo(() => setup && rigOfSession(sensor.profile, setup), [sensor.profile, setup]);
  const asFound = open?.readings.findLast((r) => r.measured.kind === 'as-found')?.shows;
  const value = rig
    ? isContact
      ? 1
      : Math.min(
          rig.range[1],
          Math.max(rig.range[0], asFound ?? channel?.value ?? (rig.range[0] + rig.range[1]) / 2),
        )
    : 0;
  const plan = useMemo(
    () => rig && meter && planBench(rig, value, meter.ranges, { sensor: atSensor }),
    [rig, meter, value, atSensor],
  );
  const candidates = useMemo(() => {
    if (!rig || !meter || !open) return [];
    const read = lastOfEach(open.readings).map((r) => r.measured);
    return planBench(rig, value, meter.ranges, { sensor: true }).all.filter(
      (m) => !read.some((r) => isSame(r, measuredOf(m))),
    );
  }, [rig, meter, open, value]);
  const weighing = useWeighing(
    open && setup && channel && meter
      ? {
          profile: sensor.profile,
          setup,
          readings: open.readings,
          candidates,
          meter: meter.ranges,
          unit: channel.unit,
        }
      : null,
  );
  if (!channel || !rig || !setup)
    return <Typography>No channel takes what {sensor.serial} measures.</Typography>;
  const pair = plan && hovered !== null ? plan.ohms.pairs[hovered] : null;
  // While it is measured the clips are drawn where they go next.
  const next =
    open && plan && isDead(open.readings)
      ? plan.all.find(
          (m) => m.kind === 'ohms' && !open.readings.some((r) => isSame(r.measured, measuredOf(m))),
        )
      : undefined;
  const clips: [string, string] | null = pair
    ? [pair.from.node, pair.to.node]
    : next?.kind === 'ohms'
      ? [next.from, next.to]
      : null;
  const circuit = sensor.offLineSince || !open ? leadsOff(rig.at(value)) : rig.at(value);
  return (
    <>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {sensor.profile.name} {sensor.serial} · {sensor.zone}
      </Typography>
      {sensor.profile.cautions.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          <b aria-label="Caution">⚠</b> {sensor.profile.cautions.join(' ')} Local codes and licensed practice
          come first.
        </Typography>
      )}
      {sensor.mains && (
        <Typography role="alert" sx={{ mb: 1, color: 'error.main', fontWeight: 600 }}>
          The plan stops here: {sensor.mains} Isolate, prove dead, licensed people only.
        </Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 3,
        }}
      >
        <Box component="section" aria-label="Circuit">
          <Diagram circuit={circuit} clips={clips} title={`Circuit of ${sensor.serial}`} />
          <Typography variant="body2" color="text.secondary">
            A dot joins; what crosses without one does not. Values as the logger reads now
            {channel.at && `, ${timeText(channel.at, zone)}`}.
          </Typography>
          {open && (
            <Box component="section" aria-labelledby="matter" sx={{ mt: 3 }}>
              <Typography variant="h2" id="matter" sx={{ mb: 1 }}>
                What may be the matter
              </Typography>
              <Ranking weighing={weighing} channel={channel} />
              {mayMeasure && <Verdict weighing={weighing} acts={acts} isOff={sensor.offLineSince !== null} />}
            </Box>
          )}
          <Past sensor={sensor} zone={zone} />
        </Box>
        {/* On a phone what is to be done comes before what it means. */}
        <Box sx={{ order: { xs: open ? -1 : 0, lg: 0 } }}>
          {!open && !sensor.mains && (
            <Box component="section" aria-label="Plan">
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5 }}>
                {sensor.channels.length > 1 && (
                  <TextField
                    select
                    size="medium"
                    label="Channel"
                    value={channelId}
                    onChange={(e) => setChannelId(e.target.value)}
                  >
                    {sensor.channels.map((c) => (
                      <MenuItem key={c.channelId} value={c.channelId}>
                        {c.name}
                      </MenuItem>
                    ))}
                  </TextField>
                )}
                <SetupFields
                  sensor={sensor}
                  meters={meters}
                  meterId={meterId}
                  onMeter={setMeterId}
                  input={input}
                  onInput={setInput}
                />
              </Box>
              <WithMeter meter={meter} />
              {plan && (
                <>
                  <PlanTable
                    plan={plan}
                    channel={channel}
                    tolerance={rig.tolerance}
                    chosen={hovered}
                    onPoint={setHovered}
                  />
                  <AtSensor value={atSensor} onChange={setAtSensor} />
                  <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
                    {mayMeasure && (
                      <Button
                        variant="contained"
                        sx={gloved}
                        disabled={acts.isBusy}
                        onClick={() => acts.begin(channel.channelId, meterId, input)}
                      >
                        Begin to measure
                      </Button>
                    )}
                    <Button
                      component={PageLink}
                      sx={gloved}
                      href={`/stations/${stationId}/bench/${sensor.installationId}/sheet?meter=${meterId}${atSensor ? '&sensor=1' : ''}`}
                    >
                      Plan for the bag
                    </Button>
                    {!isContact && (
                      <Button
                        component={PageLink}
                        sx={gloved}
                        href={`/stations/${stationId}/bench/${sensor.installationId}/table`}
                      >
                        Table for the bag
                      </Button>
                    )}
                  </Box>
                </>
              )}
            </Box>
          )}
          {open && plan && meter && (
            <Box component="section" aria-label="Measuring">
              <Typography sx={{ mb: 1 }}>
                Measured since {timeText(open.openedAt, zone)} by {open.by}, with {meter.name} {meter.serial}.
              </Typography>
              {mayMeasure ? (
                <>
                  <Steps
                    stationId={stationId}
                    sensor={sensor}
                    channel={channel}
                    session={open}
                    meter={meter}
                    plan={plan}
                    acts={acts}
                  />
                  <AtSensor value={atSensor} onChange={setAtSensor} />
                </>
              ) : (
                <Typography>{open.readings.length} readings so far.</Typography>
              )}
            </Box>
          )}
          <ProblemNote error={acts.error} />
        </Box>
      </Box>
    </>
  );
}

const WithMeter = ({ meter }: { meter: MeterView | null }) =>
  meter ? null : (
    <Typography>
      No meter in the kit yet. <PageLink href="/kit/meters">Add one</PageLink>, with what each position of its
      dial shows.
    </Typography>
  );

const AtSensor = ({ value, onChange }: { value: boolean; onChange: (on: boolean) => void }) => (
  <FormControlLabel
    control={<Checkbox checked={value} onChange={(_, on) => onChange(on)} />}
    label="The sensor’s own end is in reach, too"
    sx={{ minHeight: 48 }}
  />
);

/** What it came to before. */
const Past = ({ sensor, zone }: { sensor: BenchSensorView; zone: string }) => {
  const ended = sensor.sessions.filter((s) => s.endedAt !== null);
  if (ended.length === 0) return null;
  return (
    <Box component="section" aria-labelledby="past" sx={{ mt: 3 }}>
      <Typography variant="h2" id="past" sx={{ mb: 1 }}>
        Measured before
      </Typography>
      {ended.slice(0, 8).map((s) => (
        <Typography key={s.id}>
          {timeText(s.endedAt!, zone)} {s.by}: {s.says}
          {s.likelihood !== null && ` (${Math.round(100 * s.likelihood)} %)`}
        </Typography>
      ))}
    </Box>
  );
};
