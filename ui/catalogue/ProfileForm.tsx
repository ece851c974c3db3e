'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { connectionKindNames, connectionKinds } from '@/core/device/connection';
import { convert, type ConversionStep } from '@/core/device/conversion';
import { outputName, refuseProfile, type SensorOutput, type SensorProfile } from '@/core/device/profile';
import { connectionTemplates, fieldTemplates, stepTemplates } from '@/core/device/templates';
import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import { signals, type Signal } from '@/core/wiring/landing';
import { NumberField } from '../shared/NumberField';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { fieldGrid, gloved, openForm } from '../shared/theme';
import { ObjectFields } from './ObjectFields';

const grid = fieldGrid(165);

/** A sensor's profile as a form fitted to how it is connected; what an input sees is shown as a reading at once. */
export function ProfileForm({
  initial,
  onSaved,
  onCancel,
}: {
  initial: SensorProfile;
  onSaved: () => void;
  onCancel: () => void;
}) {
  const [p, setP] = useState(initial);
  const edit = (change: Partial<SensorProfile>) => setP((now) => ({ ...now, ...change }));
  const refused = refuseProfile(p);
  const save = useMutation({
    mutationFn: () => send('POST', '/api/v1/profiles', { profile: p }),
    onSuccess: onSaved,
  });
  const kind = p.connection.kind;
  const output = (i: number, change: Partial<SensorOutput>) =>
    edit({ outputs: p.outputs.map((o, n) => (n === i ? { ...o, ...change } : o)) });
  return (
    <Box
      component="form"
      noValidate
      aria-label="Device profile"
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <Typography variant="h2">
        {p.name}, revision {p.revision}
      </Typography>
      <Box sx={grid}>
        <TextField
          label="Code"
          value={p.code}
          helperText="a word: ness-p5"
          onChange={(e) => edit({ code: e.target.value })}
        />
        <TextField
          label="Name"
          value={p.name}
          helperText=" "
          onChange={(e) => edit({ name: e.target.value })}
        />
        <NumberField
          label="Revision"
          value={p.revision}
          low={1}
          high={9999}
          empty={false}
          onChange={(revision) => edit({ revision: Math.round(revision ?? 1) })}
        />
        <TextField
          select
          label="Connected by"
          value={kind}
          helperText=" "
          onChange={(e) => {
            const to = e.target.value as typeof kind;
            edit({
              connection: connectionTemplates[to],
              outputs: p.outputs.map((o) => ({ ...o, field: fieldTemplates[to] })),
            });
          }}
        >
          {connectionKindNames.map((k) => (
            <MenuItem key={k} value={k}>
              {connectionKinds[k].name}
            </MenuItem>
          ))}
        </TextField>
        <ObjectFields key={kind} value={p.connection} onChange={(connection) => edit({ connection })} />
      </Box>
      <Box sx={grid}>
        <NumberField
          label="Supply at least, V"
          value={p.supply.low}
          empty={false}
          onChange={(low) => edit({ supply: { ...p.supply, low: low ?? 0 } })}
        />
        <NumberField
          label="Supply preferred, V"
          value={p.supply.preferred}
          empty={false}
          onChange={(v) => edit({ supply: { ...p.supply, preferred: v ?? 0 } })}
        />
        <NumberField
          label="Supply at most, V"
          value={p.supply.high}
          empty={false}
          onChange={(high) => edit({ supply: { ...p.supply, high: high ?? 0 } })}
        />
        <NumberField
          label="Current, A"
          value={p.current}
          low={0}
          high={10}
          empty={false}
          onChange={(current) => edit({ current: current ?? 0 })}
        />
        <NumberField
          label="Warm-up, s"
          value={p.warmUp}
          low={0}
          high={3600}
          empty={false}
          onChange={(warmUp) => edit({ warmUp: warmUp ?? 0 })}
        />
      </Box>
      <Box>
        <Typography variant="h3">Leads</Typography>
        {p.leads.map((l, i) => (
          <Box key={i} sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <TextField
              label={`Colour of lead ${i + 1}`}
              value={l.colour}
              onChange={(e) =>
                edit({ leads: p.leads.map((x, n) => (n === i ? { ...x, colour: e.target.value } : x)) })
              }
            />
            <TextField
              select
              label="For"
              value={l.signal}
              sx={{ minWidth: 130 }}
              onChange={(e) =>
                edit({
                  leads: p.leads.map((x, n) => (n === i ? { ...x, signal: e.target.value as Signal } : x)),
                })
              }
            >
              {signals.map((s) => (
                <MenuItem key={s} value={s}>
                  {s}
                </MenuItem>
              ))}
            </TextField>
            <Button
              size="small"
              variant="text"
              aria-label={`Remove the ${l.colour} lead`}
              onClick={() => edit({ leads: p.leads.filter((_, n) => n !== i) })}
            >
              Remove
            </Button>
          </Box>
        ))}
        <Button
          size="small"
          sx={{ mt: 1 }}
          onClick={() => edit({ leads: [...p.leads, { colour: 'green', signal: 'signal−' }] })}
        >
          Add a lead
        </Button>
      </Box>
      {p.outputs.map((o, i) => (
        <OutputForm
          key={i}
          output={o}
          gives={connectionKinds[kind].gives}
          onChange={(change) => output(i, change)}
          onRemove={
            p.outputs.length > 1 ? () => edit({ outputs: p.outputs.filter((_, n) => n !== i) }) : null
          }
        />
      ))}
      <Box>
        <Button
          size="small"
          onClick={() =>
            edit({
              outputs: [
                ...p.outputs,
                { ...p.outputs[0]!, key: `value${p.outputs.length + 1}`, label: `${p.outputs.length + 1}` },
              ],
            })
          }
        >
          Add an output
        </Button>
      </Box>
      {refused && (
        <Typography role="status" variant="body2">
          <b>Not yet whole:</b> {refused.detail} {refused.remedy}
        </Typography>
      )}
      <ProblemNote error={save.error} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" sx={gloved} disabled={save.isPending || refused !== null}>
          {save.isPending ? 'Saving …' : 'Save as a revision'}
        </Button>
        <Button sx={gloved} onClick={onCancel}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}

function OutputForm({
  output: o,
  gives,
  onChange,
  onRemove,
}: {
  output: SensorOutput;
  gives: string;
  onChange: (change: Partial<SensorOutput>) => void;
  onRemove: (() => void) | null;
}) {
  const [raw, setRaw] = useState<number | null>(1);
  const { unit } = quantityOf(o.quantity);
  const read = raw === null ? Number.NaN : convert(o.conversion, raw);
  const step = (n: number, to: ConversionStep | null) =>
    onChange({
      conversion: to
        ? o.conversion.map((s, i) => (i === n ? to : s))
        : o.conversion.filter((_, i) => i !== n),
    });
  const input = gives === 'register' ? 'number in the register' : gives;
  return (
    <Box
      component="fieldset"
      sx={{ border: 1, borderColor: 'divider', p: 1.5, m: 0, display: 'grid', gap: 1 }}
    >
      <Typography component="legend" variant="h3" sx={{ px: 0.5 }}>
        {outputName(o)}
      </Typography>
      <Box sx={grid}>
        <TextField
          label="Key"
          value={o.key}
          helperText=" "
          onChange={(e) => onChange({ key: e.target.value })}
        />
        <TextField
          select
          label="Quantity"
          value={o.quantity}
          helperText=" "
          onChange={(e) => onChange({ quantity: e.target.value as SensorOutput['quantity'] })}
        >
          {quantityCodes.map((q) => (
            <MenuItem key={q} value={q}>
              {quantityOf(q).name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="What tells it apart"
          value={o.label}
          helperText="“at 20 cm”; may stay empty"
          onChange={(e) => onChange({ label: e.target.value })}
        />
        <ObjectFields key={o.field.kind} value={o.field} onChange={(field) => onChange({ field })} />
      </Box>
      <Box sx={grid}>
        <NumberField
          label={`From, ${unit}`}
          value={o.range[0]}
          empty={false}
          onChange={(v) => onChange({ range: [v ?? 0, o.range[1]] })}
        />
        <NumberField
          label={`To, ${unit}`}
          value={o.range[1]}
          empty={false}
          onChange={(v) => onChange({ range: [o.range[0], v ?? 0] })}
        />
        <NumberField
          label={`Accuracy ±, ${unit}`}
          value={o.accuracy.absolute}
          low={0}
          empty={false}
          onChange={(v) => onChange({ accuracy: { ...o.accuracy, absolute: v ?? 0 } })}
        />
        <NumberField
          label="± share of reading"
          value={o.accuracy.ofReading}
          low={0}
          high={1}
          empty={false}
          help="0.02 for 2 %"
          onChange={(v) => onChange({ accuracy: { ...o.accuracy, ofReading: v ?? 0 } })}
        />
        <NumberField
          label="± share of range"
          value={o.accuracy.ofRange}
          low={0}
          high={1}
          empty={false}
          onChange={(v) => onChange({ accuracy: { ...o.accuracy, ofRange: v ?? 0 } })}
        />
        <NumberField
          label={`Resolution, ${unit}`}
          value={o.resolution}
          low={1e-9}
          empty={false}
          onChange={(v) => onChange({ resolution: v ?? 1 })}
        />
        <NumberField
          label="Time constant, s"
          value={o.response}
          low={0}
          high={86_400}
          empty={false}
          onChange={(v) => onChange({ response: v ?? 0 })}
        />
      </Box>
      {o.conversion.map((s, n) => (
        <Box key={`${n} ${s.step}`} sx={{ ...grid, alignItems: 'start' }}>
          <TextField
            select
            label={`Step ${n + 1}`}
            value={s.step}
            onChange={(e) => step(n, stepTemplates[e.target.value as ConversionStep['step']])}
          >
            {Object.keys(stepTemplates).map((k) => (
              <MenuItem key={k} value={k}>
                {k}
              </MenuItem>
            ))}
          </TextField>
          <ObjectFields value={s} onChange={(to) => step(n, to)} />
          <Button size="small" variant="text" onClick={() => step(n, null)}>
            Remove step {n + 1}
          </Button>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
        <Button
          size="small"
          onClick={() => onChange({ conversion: [...o.conversion, stepTemplates.linear] })}
        >
          Add a step
        </Button>
        <NumberField label={`Try: ${input}`} value={raw} onChange={setRaw} />
        <Typography role="status">
          <Sum>
            {raw ?? '…'} → {Number.isFinite(read) ? `${Number(read.toPrecision(6))} ${unit}` : 'no value'}
          </Sum>
        </Typography>
        {onRemove && (
          <Button size="small" variant="text" onClick={onRemove}>
            Remove this output
          </Button>
        )}
      </Box>
    </Box>
  );
}
