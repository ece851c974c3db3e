'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { FieldBookPage } from '@/contract/fieldBookPage';
import { occasions, occasionWords } from '@/contract/photographs';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { Picture } from '../photograph/Picture';
import { send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay, usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { sheet, sheetCell } from '../shared/sheet';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { NoteForm } from './NoteForm';
import { SheetLines } from './SheetLines';

/** A visit as a page of the field book: what was found and done, with its sums, pictures and signature. */
export function BookPage({ initial }: { initial: FieldBookPage }) {
  const path = `/api/v1/stations/${initial.stationId}/visits/${initial.visitId}`;
  const { data: p, error, changed } = useView<FieldBookPage>(path, initial);
  const me = usePerson();
  const mayNote = useMay('note');
  const writer = p.people[0];
  const isWriter = writer?.personId === me.id;
  return (
    <Box data-scheme="light" className="sheet" sx={sheet}>
      <Box className="screen-only" sx={{ display: 'flex', gap: 1, mb: 2, flexWrap: 'wrap' }}>
        <Button variant="contained" sx={gloved} onClick={() => window.print()}>
          Print
        </Button>
        <Button sx={gloved} href={`${path}/page.csv`}>
          CSV
        </Button>
        <Button sx={gloved} href={`${path}/page.json`}>
          JSON
        </Button>
        <Button sx={gloved} component={PageLink} href={`/stations/${p.stationId}/hand-over`}>
          Hand-over
        </Button>
        <Button sx={gloved} component={PageLink} href={`/field-book?station=${p.stationId}`}>
          Back to the field book
        </Button>
      </Box>
      <ProblemNote error={error} />
      <Typography variant="h1">
        {p.name} ({p.code})
      </Typography>
      <Typography>
        {p.site} · {timeText(p.from, p.zone)} to {timeText(p.until, p.zone)}
      </Typography>
      <People page={p} />
      <Box component="section" sx={{ my: 1.5, breakInside: 'auto !important' }}>
        <Typography variant="h2">What was found and done</Typography>
        <SheetLines lines={p.lines} zone={p.zone} />
      </Box>
      <Readings page={p} />
      <Pictures page={p} />
      {p.leftOpen.length > 0 && (
        <Box component="section" sx={{ my: 1.5, border: '2px solid #7d5200', p: 1 }}>
          <Typography variant="h2">Left open</Typography>
          {p.leftOpen.map((o) => (
            <div key={`${o.says} ${o.since}`}>
              <b>{o.says}</b>, since {timeText(o.since, p.zone)}: {o.reason || 'found afterwards'}
            </div>
          ))}
        </Box>
      )}
      {p.additions.length > 0 && (
        <Box component="section" sx={{ my: 1.5 }}>
          <Typography variant="h2">Added after it was signed</Typography>
          <SheetLines lines={p.additions} zone={p.zone} dated />
        </Box>
      )}
      <Box component="section" sx={{ my: 1.5 }}>
        <Typography variant="h2">Due next</Typography>
        {p.due.length === 0 && <div>Nothing is due here now.</div>}
        {p.due.map((d) => (
          <div key={d.says}>
            {d.says}: {d.next}
          </div>
        ))}
      </Box>
      <Box component="section" sx={{ my: 1.5 }}>
        {p.signed ? (
          <>
            <Typography>
              <b>Signed</b> by {p.signed.by}, {timeText(p.signed.at, p.zone)}
            </Typography>
            <Typography variant="caption" component="p" sx={{ overflowWrap: 'anywhere', color: '#574e45' }}>
              SHA-256 of what was signed: {p.signed.sha256}
              {p.signed.sha256 !== p.sha256 && ' — the page reads otherwise now'}
            </Typography>
          </>
        ) : (
          <Typography>Not signed yet.</Typography>
        )}
        {!p.signed && isWriter && <Sign page={p} onSigned={changed} />}
      </Box>
      {p.signed && mayNote && (
        <Box className="screen-only" sx={{ my: 1.5 }}>
          <Typography variant="h3" sx={{ mb: 1 }}>
            Add to it
          </Typography>
          <NoteForm
            stations={[{ id: p.stationId, code: p.code, name: p.name, zone: p.zone }]}
            stationId={p.stationId}
            visitId={p.visitId}
            onAdded={() => void changed()}
          />
        </Box>
      )}
    </Box>
  );
}

function People({ page: p }: { page: FieldBookPage }) {
  return p.people.map((w) => (
    <Typography key={w.visitId} variant="body2">
      <b>{w.initials}</b>
      {w.others && ` with ${w.others}`}
      {w.arrivedAt && `, arrived ${timeText(w.arrivedAt, p.zone)}`}
      {w.leftAt && `, left ${timeText(w.leftAt, p.zone)}`}
      {w.acknowledged.length > 0 && `; acknowledged: ${w.acknowledged.join(' ')}`}
    </Typography>
  ));
}

function Readings({ page: p }: { page: FieldBookPage }) {
  if (p.readings.length === 0 && p.adjustments.length === 0) return null;
  const head = (words: readonly string[]) => (
    <thead>
      <tr>
        {words.map((h) => (
          <Box key={h} component="th" sx={sheetCell}>
            {h}
          </Box>
        ))}
      </tr>
    </thead>
  );
  return (
    <Box component="section" sx={{ my: 1.5 }}>
      <Typography variant="h2">Compared</Typography>
      <table>
        {head(['Channel', 'Sensor', 'Reference', 'Difference', ''])}
        <tbody>
          {p.readings.map((r) => {
            const { unit, decimals } = quantityOf(r.quantity);
            const isBrought =
              r.compared !== null && r.reference !== null && Math.abs(r.compared - r.reference) > 1e-9;
            return (
              <tr key={`${r.at} ${r.channel}`}>
                <Box component="td" sx={sheetCell}>
                  {r.channel}
                </Box>
                <Box component="td" sx={sheetCell}>
                  {formatValue(r.sensor, decimals)} {unit}
                </Box>
                <Box component="td" sx={sheetCell}>
                  {r.reference === null ? 'still to come' : `${formatValue(r.reference, decimals)} ${unit}`}
                  {isBrought && `, ${formatValue(r.compared, decimals)} as compared`}
                </Box>
                <Box component="td" sx={sheetCell}>
                  {formatDifference(r.difference, decimals)} {unit}
                </Box>
                <Box component="td" sx={sheetCell}>
                  {r.phase === 'as-found' ? 'as found' : r.phase}
                  {r.excluded && `, taken back: ${r.excluded}`}
                </Box>
              </tr>
            );
          })}
        </tbody>
      </table>
      {p.adjustments.map((a) => (
        <div key={`${a.at} ${a.channel}`}>
          {a.channel}: adjusted in the {a.place},{' '}
          {formatDifference(a.entered, quantityOf(a.quantity).decimals + 1)} {quantityOf(a.quantity).unit}
        </div>
      ))}
    </Box>
  );
}

/** Pictures small; before and after side by side. */
function Pictures({ page: p }: { page: FieldBookPage }) {
  if (p.pictures.length === 0) return null;
  return (
    <Box component="section" sx={{ my: 1.5, breakInside: 'auto !important' }}>
      <Typography variant="h2">Pictures</Typography>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}>
        {occasions
          .map((o) => [o, p.pictures.filter((g) => g.occasion === o)] as const)
          .filter(([, all]) => all.length > 0)
          .map(([occasion, all]) => (
            <div key={occasion}>
              <Typography variant="h3">{occasionWords[occasion]}</Typography>
              <Box
                sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'repeat(auto-fill, minmax(150px, 1fr))' }}
              >
                {all.map((g) => (
                  <Box key={g.id} component="figure" sx={{ m: 0, breakInside: 'avoid' }}>
                    <Picture
                      stationId={p.stationId}
                      id={g.id}
                      size="small"
                      alt={g.note || occasionWords[occasion]}
                      loading="lazy"
                      sx={{ display: 'block', width: '100%', height: 'auto' }}
                    />
                    <Box component="figcaption" sx={{ fontSize: 12 }}>
                      {timeText(g.takenAt, p.zone)} {g.initials}
                      {g.note && ` · ${g.note}`}
                      {g.shows && ` · ${g.shows}`}
                    </Box>
                  </Box>
                ))}
              </Box>
            </div>
          ))}
      </Box>
    </Box>
  );
}

/** Signing cannot be taken back, so it is asked twice. */
function Sign({ page: p, onSigned }: { page: FieldBookPage; onSigned: () => Promise<void> }) {
  const [isSure, setIsSure] = useState(false);
  const sign = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${p.stationId}/visits/${p.visitId}/sign`, {
        sha256: p.sha256,
        occurredAt: nowText(),
      }),
    onSuccess: onSigned,
    onError: () => {
      setIsSure(false);
      return onSigned();
    },
  });
  return (
    <Box
      className="screen-only"
      sx={{ mt: 1, display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
    >
      {isSure ? (
        <>
          <Typography>For good: what comes later stands below, with its date.</Typography>
          <Button
            key="sign"
            variant="contained"
            sx={gloved}
            disabled={sign.isPending}
            onClick={() => sign.mutate()}
          >
            Sign it
          </Button>
          <Button sx={gloved} onClick={() => setIsSure(false)}>
            Not yet
          </Button>
        </>
      ) : (
        <Button key="ask" sx={gloved} onClick={() => setIsSure(true)}>
          Sign this page …
        </Button>
      )}
      <ProblemNote error={sign.error} />
    </Box>
  );
}
