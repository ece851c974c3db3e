'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { connectionText } from '@/core/device/connection';
import type { AccessoryProfile } from '@/core/device/equipment';
import { outputName, outputPath } from '@/core/device/profile';
import type { DeviceUse } from '@/core/plan/context';
import type { Plan, PlannedDevice } from '@/core/plan/plan';
import { copperResistance } from '@/core/power/supply';
import { quantityOf } from '@/core/quantity/quantity';
import { NumberField } from '../shared/NumberField';
import { fieldGrid } from '../shared/theme';
import { Disturbances } from './Disturbances';

const grid = fieldGrid(150);

/** What is planned of one sensor beside where its leads go: fitted to how it is connected. */
export function DeviceForm({
  use,
  plan,
  accessories,
  disabled,
  onChange,
  onRemove,
}: {
  use: DeviceUse;
  plan: Plan;
  accessories: readonly AccessoryProfile[];
  disabled: boolean;
  onChange: (change: Partial<PlannedDevice>) => void;
  onRemove: () => void;
}) {
  const d = use.plan;
  const { sensor, board } = use;
  const kind = sensor?.connection.kind;
  const [output] = sensor?.outputs ?? [];
  const unit = output ? quantityOf(output.quantity).unit : '';
  return (
    <Box
      component="section"
      aria-label={`Planned: ${d.name}`}
      sx={{
        border: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        p: 1.5,
        display: 'grid',
        gap: 1.5,
      }}
    >
      <Box>
        <Typography variant="h2">{d.name}</Typography>
        <Typography variant="body2" color="text.secondary">
          {sensor?.name ?? board?.name ?? d.profile.code}
          {sensor ? ` · ${connectionText(sensor.connection)}` : ''} · profile revision {d.profile.revision}
        </Typography>
        {[...(sensor?.cautions ?? []), ...(board?.cautions ?? [])].map((c) => (
          <Typography key={c} variant="body2" sx={{ mt: 0.5 }}>
            <b>Caution:</b> {c} Local codes and licensed practice come first.
          </Typography>
        ))}
      </Box>
      <Box component="fieldset" disabled={disabled} sx={{ border: 0, p: 0, m: 0, display: 'grid', gap: 1.5 }}>
        <Box sx={grid}>
          <TextField
            label="Where"
            value={d.name}
            onChange={(e) => onChange({ name: e.target.value || ' ' })}
            helperText=" "
          />
          {kind === 'modbus-rtu' && (
            <NumberField
              label="ID"
              value={d.busId}
              low={1}
              high={247}
              onChange={(busId) => onChange({ busId })}
            />
          )}
          {(kind === 'sdi-12' || kind === 'i2c') && (
            <TextField
              label="Address"
              value={d.busAddress ?? ''}
              error={d.busAddress !== null && !/^([0-9a-zA-Z]|0x[0-9a-f]{2})$/.test(d.busAddress)}
              helperText={kind === 'i2c' ? 'like 0x29' : '0–9, a–z, A–Z'}
              onChange={(e) => onChange({ busAddress: e.target.value || null })}
            />
          )}
          <NumberField
            label="Cable, m"
            value={d.cable.metres}
            low={0}
            high={5000}
            empty={false}
            help={kind === 'daisy-chain' ? 'from the one before' : 'one way'}
            onChange={(metres) => onChange({ cable: { ...d.cable, metres: metres ?? 0 } })}
          />
          <NumberField
            label="Conductor, Ω/km"
            value={d.cable.ohmsPerKm}
            low={0}
            high={1000}
            empty={false}
            help={Object.entries(copperResistance)
              .map(([awg, r]) => `AWG ${awg}: ${r}`)
              .join(', ')}
            onChange={(ohmsPerKm) => onChange({ cable: { ...d.cable, ohmsPerKm: ohmsPerKm ?? 0 } })}
          />
          {plan.runs.length > 0 && (
            <TextField
              select
              label="Shared run"
              value={d.cable.run ?? ''}
              helperText=" "
              onChange={(e) => onChange({ cable: { ...d.cable, run: e.target.value || null } })}
            >
              <MenuItem value="">none</MenuItem>
              {plan.runs.map((r) => (
                <MenuItem key={r.name} value={r.name}>
                  {r.name}
                </MenuItem>
              ))}
            </TextField>
          )}
        </Box>
        {sensor && (
          <Box sx={grid}>
            <NumberField
              label="Height, m"
              value={d.height}
              help={
                sensor.placing.height
                  ? `wants ${sensor.placing.height.join(' to ')}`
                  : 'below ground negative'
              }
              onChange={(h) => onChange({ height: h })}
            />
            {sensor.placing.tilt !== null && (
              <NumberField
                label="Tilt, °"
                value={d.tilt}
                low={0}
                high={180}
                help={`at most ${sensor.placing.tilt}`}
                onChange={(tilt) => onChange({ tilt })}
              />
            )}
            {kind === 'pulse' && (
              <NumberField
                label={`Set per pulse, ${unit}`}
                value={d.perPulse}
                low={1e-9}
                help="empty: as its mechanics"
                onChange={(perPulse) => onChange({ perPulse })}
              />
            )}
            {(kind === 'voltage' || kind === 'current') && (
              <NumberField
                label={`Set full scale, ${unit}`}
                value={d.fullScale}
                low={1e-9}
                help="empty: as its profile"
                onChange={(fullScale) => onChange({ fullScale })}
              />
            )}
          </Box>
        )}
        {sensor && <Disturbances near={d.near} onChange={(near) => onChange({ near })} />}
        {board?.mains && (
          <TextField
            label="Isolated and proved dead by"
            value={d.isolatedBy ?? ''}
            helperText="licensed people; who, and when"
            onChange={(e) => onChange({ isolatedBy: e.target.value || null })}
          />
        )}
        {sensor && (
          <Box>
            <Typography variant="h3">Gets a channel</Typography>
            {sensor.outputs.map((o) => (
              <FormControlLabel
                key={o.key}
                sx={{ display: 'flex' }}
                control={
                  <Checkbox
                    size="small"
                    checked={d.mapped.includes(o.key)}
                    onChange={(e) =>
                      onChange({
                        mapped: e.target.checked ? [...d.mapped, o.key] : d.mapped.filter((k) => k !== o.key),
                      })
                    }
                  />
                }
                label={
                  <Typography variant="body2">
                    {outputName(o)} · {outputPath(o)}
                  </Typography>
                }
              />
            ))}
          </Box>
        )}
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
          <TextField
            select
            label="Accessories"
            sx={{ minWidth: 220 }}
            value={d.accessories.map((a) => a.code)}
            slotProps={{ select: { multiple: true } }}
            onChange={(e) => {
              const codes = e.target.value as unknown as string[];
              onChange({
                accessories: accessories
                  .filter((a) => codes.includes(a.code))
                  .map(({ code, revision }) => ({ code, revision })),
              });
            }}
          >
            {accessories.map((a) => (
              <MenuItem key={a.code} value={a.code}>
                {a.name}
              </MenuItem>
            ))}
          </TextField>
          {use.leads.some((l) => l.signal === 'shield') && (
            <FormControlLabel
              control={
                <Checkbox
                  checked={d.earthedAtSensor}
                  onChange={(e) => onChange({ earthedAtSensor: e.target.checked })}
                />
              }
              label="shield earthed at the sensor"
            />
          )}
        </Box>
        <Box>
          <Button size="small" color="error" onClick={onRemove}>
            Take it out of the plan
          </Button>
        </Box>
      </Box>
    </Box>
  );
}
