'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { DischargeView } from '@/contract/discharge';
import { sectionText } from '@/core/discharge/section';
import { formatValue } from '@/core/quantity/format';
import { useMay } from '../shared/person';
import { TakeBack } from '../shared/TakeBack';
import { timeText } from '../shared/time';
import { SectionForm } from './SectionForm';

/** The sections of a station, and another one: measured anew, or one of these gone on from. */
export function Sections({ view, onChanged }: { view: DischargeView; onChanged: () => Promise<void> }) {
  const may = useMay('measure');
  const [text, setText] = useState('');
  return (
    <Box component="section" aria-labelledby="sections">
      <Typography variant="h2" id="sections">
        Sections
      </Typography>
      {view.sections.map((s) => (
        <Box key={s.id} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
          <Typography>
            <b>{timeText(s.from, view.zone).slice(0, 10)}</b>: {s.points.length} points, area ±{' '}
            {formatValue(100 * s.uncertainty, 1)} %. {s.note} {s.by}
          </Typography>
          {may && (
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start' }}>
              <Button
                size="small"
                disabled={text.trim() !== ''}
                onClick={() => setText(sectionText(s.points))}
              >
                Go on from it
              </Button>
              <TakeBack
                address={`/api/v1/stations/${view.stationId}/discharge/sections/${s.id}`}
                onChanged={onChanged}
              />
            </Box>
          )}
        </Box>
      ))}
      {may && <SectionForm view={view} text={text} onText={setText} onSaved={onChanged} />}
    </Box>
  );
}
