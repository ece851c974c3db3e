'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { pointText } from '@/core/circuit/circuit';
import {
  lastOfEach,
  measuredBeside,
  measuredOf,
  type BenchReading,
  type Measured,
} from '@/core/circuit/session';
import { loggerUncertainty } from '@/core/circuit/steps';
import { mediaFor, mediumWords, togetherFor } from '@/core/circuit/together';
import { outputOf } from '@/core/device/profile';
import { gloved } from '../shared/theme';
import { useNow } from '../shared/useNow';
import { ValueEntry } from './LoggerSteps';
import { MeterEntry } from './MeterEntry';
import type { Working } from './working';

/** An independent reading beside the sensor; a thermometer is brought to one temperature with it first. */
export function Together(w: Working) {
  const { channel, acts, sensor, session } = w;
  const [which, setWhich] = useState(0);
  const its = channel.references[which];
  const output = outputOf(sensor.profile, session.setup.outputKey)!;
  const media = mediaFor(sensor.profile, output.quantity);
  const placed = lastOfEach(session.readings).find((r) => r.measured.kind === 'placed') ?? null;
  if (!its)
    return (
      <Typography>
        No reference instrument in the kit measures it. Without one, a drifted element is not told.
      </Typography>
    );
  const apart = placed ? mediumWords[placed.measured.medium!].apart : 0;
  return (
    <>
      {media.length > 0 && (
        <>
          <Typography>
            {media.includes('water')
              ? 'Bring both to one temperature:'
              : 'It is not made to lie in water. Bring both to one temperature otherwise:'}
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
            {media.map((medium) => (
              <Button
                key={medium}
                sx={gloved}
                variant={placed?.measured.medium === medium ? 'contained' : 'outlined'}
                aria-pressed={placed?.measured.medium === medium}
                disabled={acts.isBusy}
                onClick={() =>
                  acts.read(
                    measuredBeside('placed', { medium }),
                    null,
                    mediumWords[medium].name.toLowerCase(),
                  )
                }
              >
                {mediumWords[medium].name}
              </Button>
            ))}
          </Box>
        </>
      )}
      {placed && <Waiting placed={placed} />}
      {placed && <Beside {...w} />}
      <TextField
        select
        size="medium"
        label="Instrument"
        value={which}
        onChange={(e) => setWhich(Number(e.target.value))}
        sx={{ minWidth: 260, mt: 1.5 }}
      >
        {channel.references.map((r, i) => (
          <MenuItem key={r.name} value={i} sx={{ minHeight: 48 }}>
            {r.name} ± {r.tolerance} {channel.unit}
          </MenuItem>
        ))}
      </TextField>
      <ValueEntry
        label="Reference shows"
        unit={channel.unit}
        isBusy={acts.isBusy}
        none={null}
        onRead={(shows, typed) =>
          acts.read(
            {
              ...measuredBeside('after'),
              kind: 'reference',
              u: Math.hypot(its.tolerance, apart) / Math.sqrt(3),
            },
            shows,
            typed,
          )
        }
      />
    </>
  );
}

/** How long both have been together, and what to do meanwhile. */
function Waiting({ placed }: { placed: BenchReading }) {
  const now = useNow(placed.at);
  const seconds = Math.max(0, Math.floor((now - placed.at) / 1000));
  const { does } = mediumWords[placed.measured.medium!];
  const left = togetherFor - seconds;
  return (
    <Box sx={{ my: 1 }}>
      <Typography>{does}</Typography>
      <Typography role="timer" sx={{ fontSize: '1.25rem', fontWeight: 600 }}>
        {left > 0
          ? `${Math.floor(left / 60)}:${String(left % 60).padStart(2, '0')} left of ${togetherFor / 60} minutes`
          : 'Together long enough: read both now'}
      </Typography>
      <Typography color="text.secondary">
        One temperature proves one temperature. What was read before, of another one, counts no more.
      </Typography>
    </Box>
  );
}

/** The sensor's side of it: the logger while it is connected, else the pair that tells its value best. */
function Beside({ channel, acts, sensor, session, plan, meter }: Working) {
  const output = outputOf(sensor.profile, session.setup.outputKey)!;
  const measured: Measured = {
    ...measuredBeside('after'),
    kind: 'as-found',
    u: loggerUncertainty(output.range, output.resolution),
  };
  if (sensor.offLineSince === null)
    return (
      <ValueEntry
        label="Logger shows, at the same moment"
        unit={channel.unit}
        isBusy={acts.isBusy}
        none={null}
        onRead={(shows, typed) => acts.read(measured, shows, typed)}
      />
    );
  const best = plan.errors.reduce<number | null>(
    (at, e, i) => (e !== null && (at === null || e < plan.errors[at]!) ? i : at),
    null,
  );
  const pair = best === null ? null : plan.ohms.pairs[best]!;
  if (!pair?.range) return null;
  return (
    <>
      <Typography>
        At the same moment, clip A on <b>{pair.from.name}</b>, clip B on <b>{pair.to.name}</b>:
      </Typography>
      <MeterEntry
        label={`${pointText(pair.from)} to ${pointText(pair.to)}, together`}
        ranges={meter.ranges.filter((r) => r.does === 'ohms').sort((a, b) => a.upTo - b.upTo)}
        preferred={pair.range}
        isBusy={acts.isBusy}
        onRead={(shows, typed, range) =>
          acts.read(measuredOf({ kind: 'ohms', from: pair.from.node, to: pair.to.node, range }), shows, typed)
        }
      />
    </>
  );
}
