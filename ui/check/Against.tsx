'use client';

import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { StandardView } from '@/contract/standards';
import type { CheckStartView, InstrumentView } from '@/contract/checkViews';
import { accuracyRatioText } from '@/core/check/budget';
import type { ProcedureCode } from '@/core/procedure/codes';
import { procedureOf } from '@/core/procedure/procedures';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { StateMark } from '../shared/stateMark';
import { CareNote } from './CareNote';
import { doubtOf, shortDoubt } from './inHand';

/** What a check is made against, by its procedure: an instrument, standards, or what nature gives. */

type Channel = CheckStartView['channels'][number];

export function AgainstInstrument({
  channel,
  fits,
  instrument,
  settles,
  onInstrument,
}: {
  channel: Channel;
  fits: readonly InstrumentView[];
  instrument: InstrumentView | null;
  /** How long a reading is watched, s. */
  settles: number;
  onInstrument: (id: string) => void;
}) {
  const reference = instrument?.quantities.find((q) => q.quantity === channel.quantity) ?? null;
  const certified = instrument?.certified.find((c) => c.quantity === channel.quantity) ?? null;
  const limit = certified ? certified.uncertainty + certified.drift : (reference?.tolerance ?? null);
  const ratio = limit && channel.tolerance / limit;
  const doubt = instrument && doubtOf(instrument, channel.quantity);
  return (
    <>
      <TextField
        select
        size="medium"
        label="Reference instrument"
        value={instrument?.id ?? ''}
        onChange={(e) => onInstrument(e.target.value)}
        helperText={
          fits.length === 0 ? `No instrument in the Kit measures ${inSentence(channel.quantity)}.` : ' '
        }
      >
        {fits.map((i) => (
          <MenuItem key={i.id} value={i.id} sx={{ minHeight: 48 }}>
            {i.name} {i.serial}
            {shortDoubt(i, channel.quantity)}
          </MenuItem>
        ))}
      </TextField>
      {instrument && reference && ratio !== null && (
        <Box>
          <Typography>
            Sensor ±{channel.tolerance} ÷ reference ±{Number(limit!.toPrecision(3))}
            {certified && ` (certificate ±${certified.uncertainty}, moved since ±${certified.drift})`} ={' '}
            <b>{ratio.toFixed(1)} : 1</b>, {accuracyRatioText(ratio)}.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state={doubt ? 'displaced' : 'sound'} />
            {doubt ? (
              <b>{doubt}</b>
            ) : (
              <>
                Calibration in date until {instrument.dueOn}
                {certified && '; what it shows is put right by its certificate'}.
              </>
            )}
          </Box>
          <CareNote instrument={instrument} quantity={channel.quantity} settles={settles} />
        </Box>
      )}
    </>
  );
}

/** Standards out of the Kit, in the order in which they are ticked. */
export function AgainstStandards({
  channel,
  procedure,
  standards,
  chosen,
  onChosen,
}: {
  channel: Channel;
  procedure: ProcedureCode;
  standards: readonly StandardView[];
  chosen: readonly StandardView[];
  onChosen: (ids: readonly string[]) => void;
}) {
  const usual = procedureOf(procedure).points(channel.quantity);
  const { unit } = quantityOf(channel.quantity);
  return (
    <Box component="fieldset" sx={{ border: 1, borderColor: 'divider', px: 2, py: 1 }}>
      <Box component="legend" sx={{ px: 0.5 }}>
        Standards, in the order you read them
      </Box>
      {standards.length === 0 && (
        <Typography>
          The Kit has no standard of {inSentence(channel.quantity)}.{' '}
          <Link component={PageLink} href="/kit">
            Add one by its label
          </Link>
          {usual.length > 0 && `; usual are ${usual.map((p) => p.name).join(', ')}`}.
        </Typography>
      )}
      {standards.map((s) => {
        const place = chosen.findIndex((c) => c.id === s.id);
        return (
          <FormControlLabel
            key={s.id}
            sx={{ display: 'flex', minHeight: 48 }}
            control={
              <Checkbox
                checked={place >= 0}
                onChange={(e) =>
                  onChosen([
                    ...chosen.filter((c) => c.id !== s.id).map((c) => c.id),
                    ...(e.target.checked ? [s.id] : []),
                  ])
                }
              />
            }
            label={
              <Box component="span" sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
                {place >= 0 && chosen.length > 1 && <b>{place + 1}.</b>}
                {s.name}, lot {s.lot} (±{s.tolerance} {unit})
                <StateMark state={s.overdueDays > 0 ? 'displaced' : 'sound'} />
                {s.overdueDays > 0
                  ? `past its end for ${s.overdueDays} d (${s.expiresOn})`
                  : `good until ${s.expiresOn}`}
              </Box>
            }
          />
        );
      })}
      {chosen.length === 1 && (
        <Typography variant="body2" color="text.secondary">
          One point proves one point; slope and offset need two.
        </Typography>
      )}
    </Box>
  );
}

export function AgainstNature({ channel, procedure }: { channel: Channel; procedure: ProcedureCode }) {
  const { points, source } = procedureOf(procedure);
  const { unit } = quantityOf(channel.quantity);
  return (
    <Typography>
      Against{' '}
      {points(channel.quantity)
        .map((p) => `${p.name.toLowerCase()}, ±${p.tolerance} ${unit}`)
        .join('; ')}
      . {source.charAt(0).toUpperCase() + source.slice(1)}.
    </Typography>
  );
}
