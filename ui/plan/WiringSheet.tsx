'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useMemo } from 'react';
import type { PlanView } from '@/contract/planViews';
import { connectionText } from '@/core/device/connection';
import type { AccessoryProfile } from '@/core/device/equipment';
import { checkPlan } from '@/core/plan/check';
import { deviceName, planContext, profilesByPin, type DeviceUse } from '@/core/plan/context';
import { pinsOf } from '@/core/plan/patchCable';
import { pickList } from '@/core/plan/pickList';
import type { Plan } from '@/core/plan/plan';
import { supplies } from '@/core/plan/supply';
import { leadHex, leadStripe } from '@/core/wiring/leadColour';
import { sheet, sheetCell } from '../shared/sheet';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { Drawing } from './Drawing';
import { SeverityMark } from './Findings';

const nothing = () => {};

/** The sheet that goes into the bag: drawing, leads, cautions, what was accepted, what to take along. On paper always light. */
export function WiringSheet({ view, plan }: { view: PlanView; plan: Plan }) {
  const { zone } = useStationBasics();
  const profiles = useMemo(() => profilesByPin(view.profiles), [view.profiles]);
  const context = useMemo(() => planContext(plan, profiles), [plan, profiles]);
  const findings = useMemo(() => checkPlan(plan, profiles), [plan, profiles]);
  const reach = useMemo(() => supplies(context), [context]);
  const open = findings.filter((f) => !f.accepted && f.severity !== 'hint');
  const accepted = findings.filter((f) => f.accepted);
  const cautions = new Set([
    ...view.cautions,
    ...(context.logger?.cautions ?? []),
    ...context.devices.flatMap((d) => d.sensor?.cautions ?? d.board?.cautions ?? []),
  ]);
  return (
    <Box data-scheme="light" className="sheet" sx={sheet}>
      <Box className="screen-only" sx={{ display: 'flex', gap: 1, mb: 2 }}>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
        <Button component={PageLink} href={`/stations/${view.stationId}/connect/plan`}>
          Back to the plan
        </Button>
      </Box>
      <Typography variant="h1">
        Wiring sheet · {view.name} ({view.code})
      </Typography>
      <Typography>
        {context.logger?.name ?? view.loggerModel} {view.loggerSerial} · plan revision {view.revision}, saved
        by {view.savedBy} {view.savedAt && timeText(view.savedAt, zone)}
      </Typography>
      {cautions.size > 0 && (
        <Box component="section" sx={{ border: '2px solid #9c2b4e', p: 1, my: 1 }}>
          <Typography variant="h3">Caution</Typography>
          {[...cautions].map((c) => (
            <div key={c}>{c}</div>
          ))}
          <div>Local codes and licensed practice come first.</div>
        </Box>
      )}
      {open.length > 0 && (
        <Box component="section" sx={{ my: 1 }}>
          <Typography variant="h2">Not settled in the plan</Typography>
          {open.map((f) => (
            <Box key={`${f.rule} ${f.text}`} sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
              <SeverityMark severity={f.severity} /> <span>{f.text}</span>
            </Box>
          ))}
        </Box>
      )}
      <Box component="section" sx={{ my: 1.5 }}>
        <Drawing
          plan={plan}
          context={context}
          selected={null}
          troubled={new Set()}
          readOnly
          allOpen
          onSelect={nothing}
          onLand={nothing}
        />
      </Box>
      <Typography variant="h2">Lead by lead</Typography>
      {context.devices.map((d) => (
        <LeadTable key={d.plan.id} use={d} supply={reach.get(d)?.sum ?? null} />
      ))}
      {accepted.length > 0 && (
        <Box component="section" sx={{ my: 1.5 }}>
          <Typography variant="h2">Accepted</Typography>
          {accepted.map((f) => (
            <div key={`${f.rule} ${f.text}`}>
              {f.text} {f.accepted!.by}: {f.accepted!.reason}
            </div>
          ))}
        </Box>
      )}
      <Box component="section" sx={{ my: 1.5 }}>
        <Typography variant="h2">For the bag</Typography>
        <Box component="ul" sx={{ m: 0, pl: 0, listStyle: 'none', columns: 2 }}>
          {pickList(context).map((p) => (
            <li key={p.what}>
              ☐ {p.count} {p.unit === 'm' ? 'm' : '×'} {p.what}
            </li>
          ))}
        </Box>
      </Box>
    </Box>
  );
}

function LeadTable({ use, supply }: { use: DeviceUse; supply: string | null }) {
  const { plan } = use;
  return (
    <Box component="section" sx={{ my: 1 }}>
      <Typography variant="h3">
        {deviceName(use)}
        {plan.busId !== null && ` · ID ${plan.busId}`}
        {plan.busAddress !== null && ` · address ${plan.busAddress}`}
        {plan.serial && ` · ${plan.serial}`}
      </Typography>
      <div>
        {use.sensor && connectionText(use.sensor.connection)} · cable {plan.cable.metres} m, label “
        {plan.name}” at both ends{plan.height !== null && ` · at ${plan.height} m`}
        {supply && (
          <>
            {' '}
            · <Sum>{supply}</Sum>
          </>
        )}
      </div>
      <table>
        <thead>
          <tr>
            {['', 'Lead', 'For', 'Terminal', 'Port', 'Landed'].map((h) => (
              <Box component="th" key={h} sx={sheetCell}>
                {h}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {use.leads.map((l) => (
            <tr key={l.colour}>
              <Box component="td" sx={{ ...sheetCell, width: 34 }}>
                <svg width="26" height="10" aria-hidden>
                  <rect width="26" height="10" fill="#4a4038" />
                  <rect x="1" y="1" width="24" height="8" fill={leadHex(l.colour)} />
                  {leadStripe(l.colour) && (
                    <rect x="9" y="1" width="8" height="8" fill={leadStripe(l.colour)!} />
                  )}
                </svg>
              </Box>
              <Box component="td" sx={sheetCell}>
                {l.colour}
              </Box>
              <Box component="td" sx={sheetCell}>
                {l.signal}
              </Box>
              <Box component="td" sx={sheetCell}>
                <b>{l.terminal?.terminal.label ?? (l.signal === 'spare' ? 'spare' : 'open')}</b>
                {l.host && ` through screw ${l.host.screw}`}
              </Box>
              <Box component="td" sx={sheetCell}>
                {l.terminal?.port.name ?? ''}
              </Box>
              <Box component="td" sx={sheetCell}>
                ☐
              </Box>
            </tr>
          ))}
        </tbody>
      </table>
      {use.sensor?.mounting.map((m) => (
        <div key={m}>☐ {m}</div>
      ))}
      {use.accessories.map((a) => a.does.as === 'patch-cable' && <CableTest key={a.code} cable={a} />)}
    </Box>
  );
}

/** A home-made cable is tested pin by pin before it is plugged in: where it beeps, and nowhere else. */
function CableTest({ cable }: { cable: AccessoryProfile }) {
  if (cable.does.as !== 'patch-cable') return null;
  return (
    <div>
      <b>{cable.name}, test:</b>{' '}
      {pinsOf(cable.does.pins, cable.does.crossed)
        .map((to, i) => `☐ ${i + 1} → ${to}`)
        .join('  ')}{' '}
      · ☐ no other pair beeps · {cable.cautions.join(' ')}
    </div>
  );
}
