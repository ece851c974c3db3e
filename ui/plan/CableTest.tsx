'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { AccessoryProfile } from '@/core/device/equipment';
import { judgePatchCable, patchCableText, pinsOf } from '@/core/plan/patchCable';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { useStationBasics } from '../station/StationBasics';

/** A home-made cable under the beeper: of each pin, where it beeped at the other end, and what that means. */
export function CableTest({ stationId, cable }: { stationId: string; cable: AccessoryProfile }) {
  const { does } = cable;
  const pins = does.as === 'patch-cable' ? does.pins : 0;
  const [beeps, setBeeps] = useState<readonly (readonly number[])[]>(() =>
    Array.from({ length: pins }, () => []),
  );
  const { code, zone } = useStationBasics();
  const note = useFieldWrite<'note'>();
  const keep = (text: string) =>
    note.mutate({
      kind: 'note',
      stationId,
      where: code,
      zone,
      body: { lineId: newId(), stationId, text, occurredAt: nowText() },
    });
  if (does.as !== 'patch-cable') return null;
  const verdicts = judgePatchCable(pinsOf(pins, does.crossed), beeps);
  const said = patchCableText(verdicts);
  const begun = beeps.some((b) => b.length > 0);
  const toggle = (pin: number, other: number) => {
    note.reset();
    setBeeps(
      beeps.map((b, i) =>
        i !== pin - 1 ? b : b.includes(other) ? b.filter((x) => x !== other) : [...b, other],
      ),
    );
  };
  return (
    <Box component="section" aria-label={`Test of ${cable.name}`}>
      <Typography variant="h3">Test of {cable.name}</Typography>
      <Typography variant="body2" color="text.secondary">
        {does.crossed ? 'Crossed' : 'Straight'}, {pins} pins, unplugged at both ends. Beeper on a pin here:
        tick every pin at the other end where it beeps.
      </Typography>
      {beeps.map((there, i) => (
        <Box
          key={i}
          role="group"
          aria-label={`Pin ${i + 1}`}
          sx={{ display: 'flex', gap: 0.5, alignItems: 'center', mt: 0.5, flexWrap: 'wrap' }}
        >
          <Typography sx={{ minWidth: 60 }}>Pin {i + 1}</Typography>
          {Array.from({ length: pins }, (_, n) => (
            <ToggleButton
              key={n}
              value={n + 1}
              selected={there.includes(n + 1)}
              aria-label={`beeps at ${n + 1}`}
              sx={{
                minWidth: 48,
                minHeight: 48,
                '&.Mui-selected, &.Mui-selected:hover': {
                  bgcolor: 'primary.main',
                  color: 'primary.contrastText',
                },
              }}
              onChange={() => toggle(i + 1, n + 1)}
            >
              {n + 1}
            </ToggleButton>
          ))}
          <Typography variant="body2">{begun ? patchCableText([verdicts[i]!]) : ''}</Typography>
        </Box>
      ))}
      {begun && (
        <Box role="status" sx={{ mt: 1 }}>
          <Typography sx={{ fontWeight: 600 }}>
            {verdicts.every((v) => v.is === 'right') ? 'Every pin is right.' : 'Do not plug it in.'}
          </Typography>
        </Box>
      )}
      {begun && (
        <Button
          size="small"
          sx={{ mt: 0.5 }}
          disabled={note.isPending || note.isSuccess}
          onClick={() => keep(`${cable.name} tested pin by pin: ${said}.`)}
        >
          {note.isSuccess ? 'Noted' : 'Note it in the field book'}
        </Button>
      )}
      <ProblemNote error={note.error} />
    </Box>
  );
}
