'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { LoggerProfile } from '@/core/device/loggerProfile';
import type { Plan } from '@/core/plan/plan';
import { NumberField } from '../shared/NumberField';
import { fieldGrid } from '../shared/theme';

const grid = fieldGrid(150);

/** What holds for all of a plan: supply, intervals, lines, shared runs and splices. */
export function PlanBasics({
  plan,
  logger,
  disabled,
  onEdit,
}: {
  plan: Plan;
  logger: LoggerProfile;
  disabled: boolean;
  onEdit: (to: (plan: Plan) => Plan) => void;
}) {
  const supply = (change: Partial<Plan['supply']>) =>
    onEdit((p) => ({ ...p, supply: { ...p.supply, ...change } }));
  const terminals = logger.ports.flatMap((p) => p.terminals.map((t) => t.label));
  return (
    <Box
      component="fieldset"
      disabled={disabled}
      sx={{
        border: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        p: 1.5,
        m: 0,
        display: 'grid',
        gap: 1.5,
      }}
    >
      <Typography variant="h2">Supply, intervals, cabinet</Typography>
      <Box sx={grid}>
        <NumberField
          label="Supply, V"
          value={plan.supply.volts}
          low={0}
          high={60}
          empty={false}
          onChange={(volts) => supply({ volts: volts ?? 0 })}
        />
        <NumberField
          label="Source gives, A"
          value={plan.supply.most}
          low={0}
          high={100}
          empty={false}
          onChange={(most) => supply({ most: most ?? 0 })}
        />
        <NumberField
          label="Battery, Ah"
          value={plan.supply.batteryAh}
          low={0.001}
          high={10_000}
          help="empty: fed by mains"
          onChange={(batteryAh) => supply({ batteryAh })}
        />
        <NumberField
          label="Panel, Wh a day"
          value={plan.supply.solarWh}
          low={0}
          help="darkest month; empty: none"
          onChange={(solarWh) => supply({ solarWh })}
        />
        <NumberField
          label="Days without sun"
          value={plan.supply.daysWanted}
          low={0}
          high={1000}
          empty={false}
          onChange={(days) => supply({ daysWanted: days ?? 0 })}
        />
        <NumberField
          label="Measured every, s"
          value={plan.measureEvery}
          low={1}
          high={86_400}
          empty={false}
          onChange={(s) => onEdit((p) => ({ ...p, measureEvery: s ?? 60 }))}
        />
        <NumberField
          label="Stored every, s"
          value={plan.storeEvery}
          low={1}
          high={86_400}
          empty={false}
          onChange={(s) => onEdit((p) => ({ ...p, storeEvery: s ?? 600 }))}
        />
        <NumberField
          label="Visited every, days"
          value={plan.visitEvery}
          low={1}
          high={3650}
          empty={false}
          onChange={(days) => onEdit((p) => ({ ...p, visitEvery: days ?? 60 }))}
        />
        {plan.ports.map((port) => (
          <NumberField
            key={port.name}
            label={`Terminators, ${port.name}`}
            value={port.terminators}
            low={0}
            high={10}
            empty={false}
            onChange={(n) =>
              onEdit((p) => ({
                ...p,
                ports: p.ports.map((x) =>
                  x.name === port.name ? { ...x, terminators: Math.round(n ?? 0) } : x,
                ),
              }))
            }
          />
        ))}
      </Box>
      {plan.runs.map((run) => (
        <Box key={run.name} sx={grid}>
          <Typography sx={{ alignSelf: 'center' }}>Shared run {run.name}</Typography>
          <NumberField
            label="Length, m"
            value={run.metres}
            low={0}
            high={5000}
            empty={false}
            onChange={(metres) =>
              onEdit((p) => ({
                ...p,
                runs: p.runs.map((r) => (r.name === run.name ? { ...r, metres: metres ?? 0 } : r)),
              }))
            }
          />
          <NumberField
            label="Conductor, Ω/km"
            value={run.ohmsPerKm}
            low={0}
            high={1000}
            empty={false}
            onChange={(ohms) =>
              onEdit((p) => ({
                ...p,
                runs: p.runs.map((r) => (r.name === run.name ? { ...r, ohmsPerKm: ohms ?? 0 } : r)),
              }))
            }
          />
        </Box>
      ))}
      {plan.splices.map((s) => (
        <TextField
          key={s.name}
          select
          label={`Splice ${s.name} leads on to`}
          value={s.terminal ?? ''}
          sx={{ maxWidth: 260 }}
          onChange={(e) =>
            onEdit((p) => ({
              ...p,
              splices: p.splices.map((x) =>
                x.name === s.name ? { ...x, terminal: e.target.value || null } : x,
              ),
            }))
          }
        >
          <MenuItem value="">nothing yet</MenuItem>
          {terminals.map((t) => (
            <MenuItem key={t} value={t}>
              {t}
            </MenuItem>
          ))}
        </TextField>
      ))}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button
          size="small"
          onClick={() =>
            onEdit((p) => ({
              ...p,
              runs: [
                ...p.runs,
                {
                  name: free(
                    'R',
                    p.runs.map((r) => r.name),
                  ),
                  metres: 20,
                  ohmsPerKm: 20,
                },
              ],
            }))
          }
        >
          Add a shared run
        </Button>
        <Button
          size="small"
          onClick={() =>
            onEdit((p) => ({
              ...p,
              splices: [
                ...p.splices,
                {
                  name: free(
                    'S',
                    p.splices.map((s) => s.name),
                  ),
                  terminal: null,
                },
              ],
            }))
          }
        >
          Add a splice
        </Button>
      </Box>
    </Box>
  );
}

const free = (letter: string, taken: readonly string[]): string => {
  for (let i = 1; ; i++) if (!taken.includes(`${letter}${i}`)) return `${letter}${i}`;
};
