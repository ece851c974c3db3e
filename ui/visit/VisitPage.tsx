'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useRef } from 'react';
import type { VisitView } from '@/contract/visits';
import { matterKey, matterText, openKinds } from '@/core/visit/openMatter';
import { BookLine } from '../fieldBook/BookLine';
import { NoteForm } from '../fieldBook/NoteForm';
import { useUnsent } from '../outbox/outbox';
import { UnsentLines } from '../outbox/UnsentLines';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { Age } from '../shared/Age';
import { nowText } from '../shared/deviceClock';
import { useMay, usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useKeys } from '../shared/useKeys';
import { useView } from '../shared/useView';
import { StationHead } from '../station/StationHead';
import { isAway } from '../taken/away';
import { Checklist } from './Checklist';
import { Coming } from './Coming';
import { HoldReading } from './HoldReading';
import { Leaving } from './Leaving';
import { placeOfMatter } from './placeOfMatter';
import { TakePicture } from './TakePicture';
import { withUnsent } from './withUnsent';

/** A visit as it goes: arrive, stamp, note, picture, tick, leave. The field book writes itself beside it. */
export function VisitPage({ initial }: { initial: VisitView }) {
  const { data, error, changed } = useView<VisitView>(
    `/api/v1/stations/${initial.stationId}/visit`,
    initial,
    15_000,
  );
  const person = usePerson();
  const mayMeasure = useMay('measure');
  const unsent = useUnsent().filter((i) => i.person.id === person.id);
  const visit = withUnsent(data, unsent);
  const { stationId, mine, here, open, lastLeft } = visit;
  const others = here.filter((h) => h.personId !== person.id);
  const isHere = mine !== null;
  return (
    <>
      <StationHead stationId={stationId} code={`${visit.code} · ${visit.site}`} name={visit.name} />
      <ProblemNote error={error} />
      <Typography sx={{ mb: 1 }}>
        {mine?.arrivedAt ? (
          <>
            <b>You are here</b> since {timeText(mine.arrivedAt, visit.zone)},{' '}
            <Age at={mine.arrivedAt} ago={false} />.{' '}
          </>
        ) : (
          isHere && <>A visit of yours began {timeText(mine.openedAt, visit.zone)} with what you did here. </>
        )}
        {others.map((h) => (
          <span key={h.personId}>
            {h.initials}
            {h.others && ` (with ${h.others})`} here since {timeText(h.arrivedAt, visit.zone)}.{' '}
          </span>
        ))}
        {!isHere && others.length === 0 && 'Nobody is said to be here.'}
      </Typography>
      {lastLeft && !isHere && (
        <Typography sx={{ mb: 1 }}>
          Last left {timeText(lastLeft.at, visit.zone)} by {lastLeft.by}
          {lastLeft.open.length === 0
            ? ', nothing open.'
            : `, open: ${lastLeft.open.map((o) => `${o.says} (${o.reason || 'found afterwards'})`).join('; ')}.`}
        </Typography>
      )}
      {mayMeasure && !mine?.arrivedAt && <Coming visit={visit} onDone={changed} />}
      {mine?.arrivedAt && visit.cautions.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          <b aria-label="Caution">⚠</b> {visit.cautions.join(' ')} Local codes and licensed practice come
          first.
        </Typography>
      )}
      {mayMeasure && isHere && (
        <Acts visit={visit} onDone={changed} isStale={isAway() || error !== null} key={mine.openedAt} />
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 3,
          mt: 3,
        }}
      >
        <Box>
          {open.length > 0 && (
            <Box component="section" aria-label="Open here" sx={{ mb: 3 }}>
              <Typography variant="h2" sx={{ mb: 1 }}>
                Open here
              </Typography>
              {open.map((m) => (
                <Typography key={matterKey(m)}>
                  <Box component="span" aria-hidden sx={{ color: 'warning.main', fontWeight: 700 }}>
                    ⌁{' '}
                  </Box>
                  {matterText(m)}, for <Age at={new Date(m.since).toISOString()} ago={false} />.{' '}
                  <Link component={PageLink} href={placeOfMatter(stationId, m)}>
                    {openKinds[m.kind].next}
                  </Link>
                </Typography>
              ))}
            </Box>
          )}
          <Checklist visit={visit} onDone={changed} />
        </Box>
        <Box component="section" aria-labelledby="happened">
          <Typography variant="h2" id="happened" sx={{ mb: 1 }}>
            {isHere ? 'What happened so far' : 'What happened here'}
          </Typography>
          <UnsentLines stationId={stationId} />
          {visit.lines.length === 0 && <Typography>Nothing yet.</Typography>}
          {visit.lines.map((l) => (
            <BookLine key={l.id} line={l} />
          ))}
          <Typography sx={{ mt: 1 }}>
            <Link component={PageLink} href={`/field-book?station=${stationId}`}>
              All of it in the field book
            </Link>
            {' · '}
            <Link component={PageLink} href={`/stations/${stationId}/hand-over`}>
              Hand-over
            </Link>
          </Typography>
        </Box>
      </Box>
    </>
  );
}

/** What a person does on site, each on one big button or one key. */
function Acts({
  visit,
  isStale,
  onDone,
}: {
  visit: VisitView;
  isStale: boolean;
  onDone: () => Promise<void>;
}) {
  const note = useRef<HTMLTextAreaElement>(null);
  const camera = useRef<HTMLInputElement>(null);
  const { stationId, code, name, zone } = visit;
  const stamp = useFieldWrite<'note'>(onDone);
  const now = () =>
    stamp.mutate({
      kind: 'note',
      stationId,
      where: code,
      zone,
      body: { lineId: newId(), stationId, text: 'This moment was stamped.', occurredAt: nowText() },
    });
  useKeys({
    t: now,
    n: (event) => {
      event.preventDefault();
      note.current?.focus();
    },
    p: () => camera.current?.click(),
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5, mt: 2 }}>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button variant="contained" sx={gloved} disabled={stamp.isPending} onClick={now}>
          Now
        </Button>
        <TakePicture stationId={stationId} camera={camera} onSent={onDone} />
        <Leaving visit={visit} isStale={isStale} onDone={onDone} />
      </Box>
      <ProblemNote error={stamp.error} />
      <NoteForm
        stations={[{ id: stationId, code, name, zone }]}
        stationId={stationId}
        onAdded={() => void onDone()}
        field={note}
      />
      <HoldReading visit={visit} onDone={onDone} />
    </Box>
  );
}
