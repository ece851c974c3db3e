'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { HandOver as View } from '@/contract/fieldBookPage';
import { SheetLines } from '../fieldBook/SheetLines';
import { Age } from '../shared/Age';
import { ProblemNote } from '../shared/ProblemNote';
import { sheet } from '../shared/sheet';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';

/** One page for whoever comes next: what is open, what to bring, what changed. */
export function HandOver({ initial }: { initial: View }) {
  const { data: h, error } = useView<View>(`/api/v1/stations/${initial.stationId}/hand-over`, initial);
  return (
    <Box data-scheme="light" className="sheet" sx={sheet}>
      <Box className="screen-only" sx={{ display: 'flex', gap: 1, mb: 2, flexWrap: 'wrap' }}>
        <Button variant="contained" sx={gloved} onClick={() => window.print()}>
          Print
        </Button>
        <Button sx={gloved} component={PageLink} href={`/stations/${h.stationId}/visit`}>
          Visit
        </Button>
        {h.last && (
          <Button sx={gloved} component={PageLink} href={`/stations/${h.stationId}/visits/${h.last.visitId}`}>
            Page of the last visit
          </Button>
        )}
      </Box>
      <ProblemNote error={error} />
      <Typography variant="h1">
        Hand-over · {h.name} ({h.code})
      </Typography>
      <Typography>{h.site}</Typography>
      {h.cautions.length > 0 && (
        <Box component="section" sx={{ border: '2px solid #9c2b4e', p: 1, my: 1 }}>
          <Typography variant="h3">Caution</Typography>
          {h.cautions.map((c) => (
            <div key={c}>{c}</div>
          ))}
          <div>Local codes and licensed practice come first.</div>
        </Box>
      )}
      <Box component="section" sx={{ my: 1.5 }}>
        <Typography variant="h2">Open</Typography>
        {h.open.length === 0 && <div>Nothing was left open.</div>}
        {h.open.map((o) => (
          <div key={o.key}>
            <b>{o.says}</b>, for <Age at={o.since} ago={false} />
            {o.reason && `: ${o.reason}`}. {o.next}.
          </div>
        ))}
      </Box>
      <Box component="section" sx={{ my: 1.5 }}>
        <Typography variant="h2">To do next time</Typography>
        {h.toDo.length + h.due.length === 0 && <div>Nothing is due.</div>}
        {h.toDo.map((t) => (
          <div key={t}>□ {t}</div>
        ))}
        {h.due.map((d) => (
          <div key={d.says}>
            □ {d.next} <span>({d.says})</span>
          </div>
        ))}
      </Box>
      <Box component="section" sx={{ my: 1.5 }}>
        <Typography variant="h2">To bring</Typography>
        <div>{h.bring.length ? h.bring.join(' · ') : 'The usual bag.'}</div>
      </Box>
      <Box component="section" sx={{ my: 1.5, breakInside: 'auto !important' }}>
        <Typography variant="h2">
          {h.last
            ? `The last visit: ${timeText(h.last.from, h.zone)} to ${timeText(h.last.until, h.zone)}, ${h.last.by}`
            : 'Nobody was here yet'}
        </Typography>
        {h.last && <SheetLines lines={h.last.lines} zone={h.zone} />}
      </Box>
      {h.last && (
        <Box component="section" sx={{ my: 1.5, breakInside: 'auto !important' }}>
          <Typography variant="h2">Since then</Typography>
          {h.since.length === 0 ? <div>Nothing.</div> : <SheetLines lines={h.since} zone={h.zone} dated />}
        </Box>
      )}
    </Box>
  );
}
