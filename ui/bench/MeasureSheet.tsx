'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { BenchSensorView, BenchView, MeterView } from '@/contract/bench';
import { leadsOff } from '@/core/circuit/rig';
import { planBench } from '@/core/circuit/steps';
import { rigOfSession } from '@/core/circuit/verdict';
import { ohmsText } from '@/core/circuit/words';
import { sheet, sheetCell } from '../shared/sheet';
import { timeText } from '../shared/time';
import { Diagram } from './Diagram';
import { pointText } from '@/core/circuit/circuit';
import { dialText, limitText, valueText } from './texts';

/** A plan on one page for the bag: circuit, what to measure, what to expect, with room to write. On paper always light. */
export function MeasureSheet({
  view,
  sensor,
  meter,
  atSensor,
}: {
  view: BenchView;
  sensor: BenchSensorView;
  meter: MeterView;
  atSensor: boolean;
}) {
  const channel = sensor.channels[0]!;
  const setup = { outputKey: channel.outputKey, ...sensor.setup };
  const rig = rigOfSession(sensor.profile, setup);
  const isContact = sensor.profile.connection.kind === 'pulse';
  const middle = (rig.range[0] + rig.range[1]) / 2;
  const value = isContact ? 1 : Math.min(rig.range[1], Math.max(rig.range[0], channel.value ?? middle));
  const { fed, ohms, errors } = planBench(rig, value, meter.ranges, { sensor: atSensor });
  const back = `/stations/${view.stationId}/bench/${sensor.installationId}`;
  const cautions = [...new Set([...view.cautions, ...sensor.profile.cautions])];
  const cell = (text: string) => (
    <Box component="td" sx={sheetCell}>
      {text}
    </Box>
  );
  const blank = <Box component="td" sx={{ ...sheetCell, width: 110 }} />;
  const head = (...names: string[]) => (
    <thead>
      <tr>
        {names.map((n) => (
          <Box component="th" key={n} sx={{ ...sheetCell, fontWeight: 600 }}>
            {n}
          </Box>
        ))}
      </tr>
    </thead>
  );
  return (
    <Box data-scheme="light" className="sheet" sx={sheet}>
      <Box className="screen-only" sx={{ display: 'flex', gap: 1, mb: 2 }}>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
        <Button component={PageLink} href={back}>
          Back to the bench
        </Button>
      </Box>
      <Typography variant="h1">
        Measuring {sensor.serial} · {sensor.zone}
      </Typography>
      <Typography>
        {view.code} {view.name} · {sensor.profile.name} · {meter.name} {meter.serial} · logger shows{' '}
        {valueText(channel.value, channel)}
        {channel.at && `, ${timeText(channel.at, view.zone)}`}
      </Typography>
      {cautions.length > 0 && (
        <Box component="section" sx={{ border: '2px solid #9c2b4e', p: 1, my: 1 }}>
          {cautions.map((c) => (
            <div key={c}>{c}</div>
          ))}
          <div>Local codes and licensed practice come first.</div>
        </Box>
      )}
      <Box component="section" sx={{ my: 1, maxWidth: 640 }}>
        <Diagram circuit={leadsOff(rig.at(value))} clips={null} title={`Circuit of ${sensor.serial}`} />
      </Box>
      <Box component="section" sx={{ my: 1 }}>
        <Typography variant="h2">Before</Typography>
        <div>☐ Logger shows ______________ at ______________ ☐ outputs in hand ☐ terminals photographed</div>
        {fed.length > 0 && (
          <table>
            {head('Fed, leads on', 'Dial on', 'Expect', 'Read')}
            <tbody>
              {fed.map((f) => (
                <tr key={f.says}>
                  {cell(`${f.what}: ${f.says}`)}
                  {cell('range' in f.of ? dialText(f.of.range) : '')}
                  {cell(
                    `${Number(f.expected.toPrecision(4))} ${f.of.kind === 'volts' ? 'V' : f.of.kind === 'milliamps' ? 'mA' : ''}`,
                  )}
                  {blank}
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <div>
          ☐ Leads off at ______________:{' '}
          {sensor.setup.leads.map((l) => `${l.colour} (${l.terminal ?? '–'})`).join(', ')}
        </div>
        <div>☐ Volts between the leads: DC ________ AC ________ ☐ probes together ________ Ω</div>
      </Box>
      <Box component="section" sx={{ my: 1 }}>
        <Typography variant="h2">Ohms, clips on lead ends</Typography>
        <table>
          {head('Clips', 'Dial on', 'Expect', 'Meter ±', `That is, ${channel.unit}`, 'Read')}
          <tbody>
            {ohms.pairs.map((p, i) => (
              <tr key={`${p.from.node}${p.to.node}`}>
                {cell(`${pointText(p.from)} – ${pointText(p.to)}${p.proves ? ' (proves)' : ''}`)}
                {cell(p.range ? dialText(p.range) : '–')}
                {cell(
                  p.span[1] > p.span[0] * 1.001
                    ? `${ohmsText(p.expected)} (${ohmsText(p.span[0])} … ${ohmsText(p.span[1])})`
                    : ohmsText(p.expected),
                )}
                {cell(limitText(p.limit))}
                {cell(errors[i] === null ? '–' : `± ${errors[i]!.toPrecision(2)}`)}
                {blank}
              </tr>
            ))}
          </tbody>
        </table>
      </Box>
      <Box component="section" sx={{ my: 1 }}>
        <Typography variant="h2">After</Typography>
        <div>
          ☐{' '}
          {sensor.profile.leads
            .filter((l) => l.signal !== 'spare')
            .map((l) => {
              const its = sensor.setup.leads.find((x) => x.colour === l.colour);
              return `${l.colour}${its ? ` on ${its.terminal ?? '–'}` : ' (shield)'}`;
            })
            .join(', ')}
        </div>
        <div>☐ Outputs given back ☐ logger shows ______________ at ______________</div>
      </Box>
    </Box>
  );
}
