'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { MeterFunction, MeterRange } from '@/core/circuit/meter';
import {
  isDead,
  isSame,
  lastOfEach,
  measuredBeside,
  measuredOf,
  type Measured,
} from '@/core/circuit/session';
import { gloved } from '../shared/theme';
import { AsFound, AfterReconnecting, InHand } from './LoggerSteps';
import { TerminalPicture } from './TerminalPicture';
import { Together } from './Together';
import { MeterEntry } from './MeterEntry';
import { pointText } from '@/core/circuit/circuit';
import { dialText, readingText, shownText } from './texts';
import type { Working } from './working';

/** One step: its number, what to do, what was read. */
export function Step({
  n,
  title,
  done,
  isNow,
  children,
}: {
  n: number;
  title: string;
  /** What was read or done; null while it is not. */
  done: string | null;
  isNow: boolean;
  children: ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  const shows = isNow || isOpen;
  return (
    <Box
      component="li"
      aria-current={isNow ? 'step' : undefined}
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        borderLeft: 5,
        borderLeftColor: isNow ? 'primary.main' : done ? 'secondary.main' : 'divider',
        pl: 1.5,
        py: 1,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography
          component="h3"
          sx={{ fontWeight: isNow ? 700 : 600, fontSize: isNow ? '1.1rem' : '1rem' }}
        >
          {n} {title}
        </Typography>
        {done && <Typography sx={{ fontWeight: 600 }}>✓ {done}</Typography>}
        {!isNow && (
          <Button size="small" sx={{ ml: 'auto', minHeight: 44 }} onClick={() => setOpen((o) => !o)}>
            {isOpen ? 'Close' : done ? 'Again' : 'Open'}
          </Button>
        )}
      </Box>
      {shows && children}
    </Box>
  );
}

/** All steps in their order; the first that is not done stands open. */
export function Steps(w: Working) {
  const { session, plan, meter, sensor, acts, channel } = w;
  const [pulled, setPulled] = useState<readonly string[]>([]);
  const [seen, setSeen] = useState<readonly string[]>([]);
  const see = (what: string) => setSeen((all) => [...all, what]);
  const last = lastOfEach(session.readings);
  const of = (m: Measured) => last.find((r) => isSame(r.measured, m)) ?? null;
  const ofKind = (kind: Measured['kind']) => last.find((r) => r.measured.kind === kind) ?? null;
  const said = (r: ReturnType<typeof of>) => r && readingText(r.measured, r.shows, r.typed, channel);
  const ranges = (does: MeterFunction) =>
    meter.ranges.filter((r) => r.does === does).sort((a, b) => a.upTo - b.upTo);
  const keep = (measured: Measured) => (shows: number | null, typed: string, range: MeterRange) =>
    acts.read({ ...measured, range: measured.kind === 'dead-ac' ? null : range }, shows, typed);
  const isOff = sensor.offLineSince !== null;
  const dead = isDead(session.readings);
  const [dc, ac] = [ofKind('dead-dc'), ofKind('dead-ac')];
  const wasOff = isOff || ofKind('ohms') !== null;
  const ohms = plan.all.filter((m) => m.kind === 'ohms');
  const ends = session.setup.leads;
  const isContact = ends.some((l) => l.signal === 'pulse');
  const list: { title: string; done: string | null; body: ReactNode; key: string }[] = [
    ...(isContact
      ? []
      : [{ key: 'found', title: 'As found', done: said(ofKind('as-found')), body: <AsFound {...w} /> }]),
    {
      key: 'hand',
      title: 'What acts on it',
      done: wasOff || seen.includes('hand') ? 'seen to' : null,
      body: <InHand {...w} onSeen={() => see('hand')} />,
    },
    {
      key: 'picture',
      title: 'Photograph the terminals',
      done: wasOff || seen.includes('picture') ? 'seen to' : null,
      body: (
        <>
          <Typography>From several angles, before anything is touched.</Typography>
          <TerminalPicture stationId={w.stationId} onTaken={() => see('picture')} />
        </>
      ),
    },
    ...plan.fed.map((f) => {
      const measured = measuredOf(f.of);
      return {
        key: f.says,
        title: `${f.what.charAt(0).toUpperCase()}${f.what.slice(1)}: ${f.says}`,
        done: said(of(measured)),
        body:
          f.of.kind === 'counts' ? (
            <CountEntry
              worked={f.of.worked}
              isBusy={acts.isBusy}
              onRead={(n) => acts.read(measured, n, String(n))}
            />
          ) : (
            <>
              <Typography>
                Expect about {shownText(f.expected, f.of.range)}.{' '}
                {f.what === 'excitation' || f.what === 'output'
                  ? 'On only while the logger measures: use the meter’s maximum hold, or let the logger measure without pause.'
                  : f.of.kind === 'milliamps'
                    ? 'In series: open the lead and put the meter in its place. Never the current jacks across a supply.'
                    : 'Probes in the volt jacks.'}
              </Typography>
              <MeterEntry
                label={`${f.what} ${f.says}`}
                ranges={ranges(f.of.range.does)}
                preferred={f.of.range}
                isBusy={acts.isBusy}
                onRead={keep(measured)}
              />
            </>
          ),
      };
    }),
    {
      key: 'off',
      title: 'Leads off',
      done: wasOff ? (isOff ? 'off-line, the clock runs' : 'were off') : null,
      body: (
        <>
          <Typography>
            Every lead of {sensor.serial}:{' '}
            {ends.map((l) => `${l.colour} from ${l.terminal ?? 'nowhere'}`).join(', ')}. From now on its
            values are marked as not real.
          </Typography>
          {sensor.neighbours.length > 0 && (
            <Typography>Where the whole strip is pulled, these go off-line with it:</Typography>
          )}
          {sensor.neighbours.map((n) => (
            <FormControlLabel
              key={n.installationId}
              control={
                <Checkbox
                  checked={pulled.includes(n.installationId)}
                  onChange={(_, on) =>
                    setPulled((p) =>
                      on ? [...p, n.installationId] : p.filter((x) => x !== n.installationId),
                    )
                  }
                />
              }
              label={`${n.serial} (${n.zone}) pulled, too`}
            />
          ))}
          {!isOff && (
            <Button
              variant="contained"
              sx={gloved}
              disabled={acts.isBusy}
              onClick={() => acts.leadsOff(pulled)}
            >
              Leads are off
            </Button>
          )}
        </>
      ),
    },
    {
      key: 'dead',
      title: 'Volts before ohms',
      done: dead ? 'dead, AC and DC' : null,
      body: (
        <>
          <Typography>Between the leads to be measured. Ohms come after both are near nothing.</Typography>
          {(dc || ac) && !dead && (
            <Typography role="alert" sx={{ color: 'error.main', fontWeight: 600 }}>
              {dc && ac
                ? 'Not dead: something feeds these leads still. Find it, or stop here.'
                : `${dc ? 'AC' : 'DC'} is missing.`}
            </Typography>
          )}
          <Typography variant="body2" sx={{ mt: 1 }}>
            DC {said(dc) ?? ''}
          </Typography>
          <MeterEntry
            label="Volts DC between the leads"
            ranges={ranges('volts-dc')}
            preferred={ranges('volts-dc')[0] ?? null}
            isBusy={acts.isBusy}
            onRead={keep(measuredBeside('dead-dc'))}
          />
          <Typography variant="body2" sx={{ mt: 1 }}>
            AC {ac?.typed ?? ''}
          </Typography>
          <MeterEntry
            label="Volts AC between the leads"
            ranges={ranges('volts-ac').length > 0 ? ranges('volts-ac') : ranges('volts-dc')}
            preferred={(ranges('volts-ac')[0] ?? ranges('volts-dc')[0]) || null}
            isBusy={acts.isBusy}
            onRead={keep(measuredBeside('dead-ac'))}
          />
        </>
      ),
    },
    {
      key: 'zero',
      title: 'Probes together',
      done: said(ofKind('zero')),
      body: (
        <>
          <Typography>
            Clip A on clip B, on the lowest position: what it reads is taken off what follows.
          </Typography>
          <MeterEntry
            label="Probes together"
            ranges={ranges('ohms')}
            preferred={ranges('ohms')[0] ?? null}
            isBusy={acts.isBusy}
            onRead={keep(measuredBeside('zero'))}
          />
        </>
      ),
    },
    ...ohms.map((m) => {
      const measured = measuredOf(m);
      const pair = plan.ohms.pairs.find((p) => p.from.node === m.from && p.to.node === m.to)!;
      return {
        key: `${m.from}${m.to}${m.closed}`,
        title: `${pointText(pair.from)} – ${pointText(pair.to)}${m.closed === undefined ? '' : m.closed ? ', contact closed' : ', contact open'}`,
        done: said(of(measured)),
        body: dead ? (
          <>
            <Typography>
              Clip A on <b>{pair.from.name}</b>, clip B on <b>{pair.to.name}</b>.{' '}
              {m.closed === false
                ? 'Expect over the range: whatever shows is moisture.'
                : `Expect about ${shownText(pair.expected, m.range)}, dial on ${dialText(m.range)}.`}{' '}
              It jumps about? Excitation is still connected: look at the leads and at volts again.
            </Typography>
            <MeterEntry
              label={`${pointText(pair.from)} to ${pointText(pair.to)}`}
              ranges={ranges('ohms')}
              preferred={m.range}
              isBusy={acts.isBusy}
              onRead={keep(measured)}
            />
          </>
        ) : (
          <Typography>Volts first.</Typography>
        ),
      };
    }),
    ...(isContact
      ? []
      : [
          {
            key: 'reference',
            title: 'A reference beside the sensor, where one is at hand',
            done: said(ofKind('reference')),
            body: <Together {...w} />,
          },
        ]),
    {
      key: 'on',
      title: 'Leads on again, by the diagram',
      done: wasOff && !isOff ? 'on-line' : null,
      body: (
        <>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {sensor.profile.leads
              .filter((l) => l.signal !== 'spare')
              .map((l) => (
                <li key={l.colour}>
                  <b>{l.colour}</b> on {ends.find((e) => e.colour === l.colour)?.terminal ?? 'its terminal'}
                  {l.signal === 'shield' && ' (shield)'}
                </li>
              ))}
            <li>What was put in hand: given back, and ticked on the visit’s list</li>
          </Box>
          {isOff && (
            <Button variant="contained" sx={gloved} disabled={acts.isBusy} onClick={() => acts.leadsOn()}>
              Leads are on again
            </Button>
          )}
        </>
      ),
    },
    ...(isContact
      ? []
      : [
          {
            key: 'after',
            title: 'What the logger shows now',
            done: said(ofKind('after')),
            body: <AfterReconnecting {...w} />,
          },
        ]),
  ];
  // Steps that leave no reading are no reason to wait.
  const now = list.findIndex((s) => !s.done && s.key !== 'reference');
  return (
    <Box component="ol" aria-label="Steps" sx={{ listStyle: 'none', p: 0, m: 0 }}>
      {list.map((s, i) => (
        <Step key={s.key} n={i + 1} title={s.title} done={s.done} isNow={i === now}>
          {s.body}
        </Step>
      ))}
    </Box>
  );
}

function CountEntry({
  worked,
  isBusy,
  onRead,
}: {
  worked: number;
  isBusy: boolean;
  onRead: (counted: number) => void;
}) {
  const [text, setText] = useState('');
  const n = Number(text);
  const fits = text.trim() !== '' && Number.isInteger(n) && n >= 0 && n < 1000;
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        if (!fits) return;
        onRead(n);
        setText('');
      }}
      sx={{ display: 'flex', gap: 1, mt: 1, alignItems: 'center', flexWrap: 'wrap' }}
    >
      <Typography>Work it {worked} times by hand, slowly. The logger counts</Typography>
      <Box
        component="input"
        aria-label="Counted"
        inputMode="numeric"
        value={text}
        onChange={(e) => setText(e.target.value)}
        sx={{
          width: 90,
          minHeight: 48,
          fontSize: '1.1rem',
          px: 1,
          border: 1,
          borderColor: 'divider',
          bgcolor: 'background.paper',
          color: 'text.primary',
        }}
      />
      <Button type="submit" variant="contained" sx={gloved} disabled={isBusy || !fits}>
        Keep it
      </Button>
    </Box>
  );
}
