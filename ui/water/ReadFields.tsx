'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { WaterView } from '@/contract/water';
import type { RecordPeak } from '@/core/water/crestPeaks';
import { metresOf } from '@/core/water/metres';
import { InstantField } from '../shared/DateFields';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import type { ReadDraft } from './readDraft';

interface Props {
  draft: ReadDraft;
  zone: string;
  /** Crests of the record that a mark may be of. */
  crests: readonly RecordPeak[];
  /** What barometers said of late. */
  air: WaterView['air'];
  onChange: (draft: ReadDraft) => void;
}

/** What is typed of a reading, by how it is read. */
export function ReadFields(p: Props) {
  switch (p.draft.kind) {
    case 'tape':
      return (
        <>
          <Choice
            {...p}
            name="direction"
            label="Tape"
            of={[
              ['down', 'Down'],
              ['up', 'Up'],
            ]}
          />
          <Length {...p} name="length" label={`Tape-${p.draft.chosen.direction}, m`} />
        </>
      );
    case 'staff':
      return <Length {...p} name="reads" label="Staff reads, m" />;
    case 'wire':
      return <Length {...p} name="reads" label="Gauge reads at the water, m" />;
    case 'bar':
      return (
        <>
          <Length {...p} name="reads" label="Gauge reads on the bar, m" />
          <Tick {...p} name="changed" label="The setting was changed" />
          {p.draft.chosen.changed && (
            <>
              <Length {...p} name="set" label="Set to, m" />
              <Time {...p} name="set" label="Set at" />
            </>
          )}
        </>
      );
    case 'crest':
      return <CrestFields {...p} />;
    case 'radar':
      return (
        <>
          <Choice
            {...p}
            name="shows"
            label="It shows"
            of={[
              ['distance', 'Distance'],
              ['level', 'Level'],
            ]}
          />
          <Length {...p} name="reads" label={p.draft.chosen.shows === 'level' ? 'Level, m' : 'Distance, m'} />
          <Tick {...p} name="inspected" label="Inspected" />
          {p.draft.chosen.inspected && (
            <>
              <Tick {...p} name="nests" label="Nests in the beam" />
              <Tick {...p} name="clear" label="Beam is clear" />
              <Figure {...p} name="tilt" label="Tilt, °" />
            </>
          )}
        </>
      );
    case 'pressure':
      return (
        <>
          <Figure {...p} name="pressure" label="Pressure, hPa" />
          <Tick {...p} name="vented" label="Vented to the air" />
          {!p.draft.chosen.vented && <AirField {...p} name="air" label="Air, hPa" />}
          <Figure {...p} name="temperature" label="Water, °C" />
          <Figure {...p} name="salinity" label="Salinity" />
        </>
      );
    case 'sum':
      return (
        <Plain {...p} name="sum" label="Sum, m" help="As it was worked out: 12.340 − 3.415" width={280} />
      );
  }
}

/** The pressure of the air: typed, or as a barometer said of late. */
function AirField(p: Named) {
  return (
    <Box sx={{ display: 'grid', gap: 0.5, justifyItems: 'start' }}>
      <Figure {...p} />
      {p.air.slice(0, 3).map((a) => (
        <Button key={`${a.code} ${a.zone}`} sx={gloved} onClick={() => typedInto(p)(String(a.value))}>
          {a.code} {a.zone}: {a.value} hPa at {timeText(a.at, p.zone).slice(11, 16)}
        </Button>
      ))}
    </Box>
  );
}

function CrestFields(p: Props) {
  const { draft, crests, zone, onChange } = p;
  const hasMark = Boolean(draft.chosen.hasMark);
  return (
    <>
      <Tick {...p} name="hasMark" label="There is a mark" />
      {hasMark && <Length {...p} name="mark" label="Mark above the index, m" />}
      <Select
        {...p}
        name="condition"
        label="Gauge"
        of={[
          ['sound', 'Sound'],
          ['loose', 'Loose'],
          ['damaged', 'Damaged'],
        ]}
      />
      <Select
        {...p}
        name="cork"
        label="Cork"
        of={[
          ['line', 'A clear line'],
          ['scattered', 'Scattered'],
          ['none', 'None'],
        ]}
      />
      {hasMark && (
        <TextField
          select
          size="medium"
          label="When the water stood there"
          value={draft.times.peak ?? ''}
          onChange={(e) =>
            onChange({
              ...draft,
              times: { ...draft.times, peak: e.target.value === '' ? null : Number(e.target.value) },
            })
          }
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          sx={{ minWidth: 260 }}
        >
          <MenuItem value="" sx={{ minHeight: 48 }}>
            Not known
          </MenuItem>
          {crests.map((c) => (
            <MenuItem key={c.at} value={c.at} sx={{ minHeight: 48 }}>
              {timeText(c.at, zone)}, {c.level.toFixed(3)} m logged
            </MenuItem>
          ))}
        </TextField>
      )}
      <Tick {...p} name="recharged" label="Recharged: mark wiped, cork renewed" />
    </>
  );
}

type Named = Props & { name: string; label: string };

const typedInto =
  ({ draft, name, onChange }: Named) =>
  (value: string) =>
    onChange({ ...draft, typed: { ...draft.typed, [name]: value } });
const chosenIn =
  ({ draft, name, onChange }: Named) =>
  (value: string) =>
    onChange({ ...draft, chosen: { ...draft.chosen, [name]: value } });

function Plain(p: Named & { help?: string; wrong?: boolean; width?: number }) {
  return (
    <TextField
      size="medium"
      label={p.label}
      value={p.draft.typed[p.name] ?? ''}
      error={p.wrong ?? false}
      helperText={p.help ?? ' '}
      autoComplete="off"
      onChange={(e) => typedInto(p)(e.target.value)}
      sx={{ width: p.width ?? Math.max(170, 40 + 8.5 * p.label.length), maxWidth: '100%' }}
      slotProps={{ htmlInput: { inputMode: 'decimal', style: { fontSize: '1.2rem' } } }}
    />
  );
}

function Length(p: Named) {
  const text = p.draft.typed[p.name] ?? '';
  const metres = metresOf(text);
  const wrong = text.trim() !== '' && !Number.isFinite(metres);
  const converted = Number.isFinite(metres) && /[a-z]/i.test(text) && !/^[^a-z]*m\s*$/i.test(text);
  return (
    <Plain
      {...p}
      wrong={wrong}
      help={wrong ? 'Metres: 3.415, or 341.5 cm.' : converted ? `${metres.toFixed(3)} m` : ' '}
    />
  );
}

function Figure(p: Named) {
  const text = p.draft.typed[p.name] ?? '';
  const wrong = text.trim() !== '' && !Number.isFinite(Number(text.replace(',', '.')));
  return <Plain {...p} wrong={wrong} help={wrong ? 'A number.' : ' '} width={170} />;
}

function Tick(p: Named) {
  return (
    <FormControlLabel
      sx={{ minHeight: 48, mr: 0 }}
      control={
        <Checkbox
          checked={Boolean(p.draft.chosen[p.name])}
          onChange={(_, on) => chosenIn(p)(on ? 'yes' : '')}
        />
      }
      label={p.label}
    />
  );
}

function Choice(p: Named & { of: readonly (readonly [string, string])[] }) {
  return (
    <ToggleButtonGroup
      exclusive
      value={p.draft.chosen[p.name]}
      aria-label={p.label}
      onChange={(_, v: string | null) => v && chosenIn(p)(v)}
      sx={{ height: 56 }}
    >
      {p.of.map(([value, label]) => (
        <ToggleButton key={value} value={value} sx={{ px: 2, minWidth: 72 }}>
          {label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

function Select(p: Named & { of: readonly (readonly [string, string])[] }) {
  return (
    <TextField
      select
      size="medium"
      label={p.label}
      value={p.draft.chosen[p.name]}
      onChange={(e) => chosenIn(p)(e.target.value)}
      sx={{ minWidth: 140 }}
    >
      {p.of.map(([value, label]) => (
        <MenuItem key={value} value={value} sx={{ minHeight: 48 }}>
          {label}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Time(p: Named) {
  return (
    <Box sx={{ pt: 1 }}>
      <InstantField
        label={p.label}
        value={p.draft.times[p.name] ?? Number.NaN}
        zone={p.zone}
        seconds
        helperText="Empty: with the reading"
        onChange={(ms) =>
          p.onChange({
            ...p.draft,
            times: { ...p.draft.times, [p.name]: Number.isFinite(ms) ? ms : null },
          })
        }
      />
    </Box>
  );
}
