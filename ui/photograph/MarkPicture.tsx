'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState, type PointerEvent } from 'react';
import type { PhotographView } from '@/contract/photographs';
import { useDoFieldWrite } from '../outbox/useFieldWrite';
import { newId, refuseHere } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useStationBasics } from '../station/StationBasics';
import { markColours, markKinds, markPath, markWidth, nextLetter, type Mark, type Place } from './marks';
import { heldPicture, isAway } from '../taken/away';
import { pictureAddress } from './pictureText';
import { base64Of, shrink } from './shrink';
import { usePictureAddress } from './Picture';

/** The photograph itself, or in small what was taken along of it. */
async function pictureHere(stationId: string, id: string): Promise<Blob | null> {
  if (isAway()) return heldPicture(pictureAddress(stationId, id, 'small'));
  const response = await fetch(pictureAddress(stationId, id, 'large')).catch(() => null);
  return response?.ok ? response.blob() : null;
}

const words: Readonly<Record<Mark['kind'], string>> = { arrow: 'Arrow', ring: 'Ring', letter: 'Letter' };

/**
 * Arrows, rings and letters on a copy of a photograph: what it was taken as stays as it is. Drawn with a
 * finger or a pen.
 */
export function MarkPicture({
  stationId,
  photograph: g,
  onDone,
}: {
  stationId: string;
  photograph: PhotographView;
  onDone: () => Promise<unknown>;
}) {
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  const [kind, setKind] = useState<Mark['kind']>('arrow');
  const [begun, setBegun] = useState<{ from: Place; to: Place } | null>(null);
  const drawing = useRef<SVGSVGElement>(null);
  const { address } = usePictureAddress(stationId, g.id, 'large');
  const doFieldWrite = useDoFieldWrite();
  const { code, zone } = useStationBasics();
  const save = useMutation({
    mutationFn: async () => {
      const original = await pictureHere(stationId, g.id);
      if (!original)
        throw refuseHere('picture-away', 'picture', 'The photograph cannot be had here.', 'Find a signal.');
      const picture = await shrink(original, 'the photograph', marks);
      await doFieldWrite({
        kind: 'photograph',
        stationId,
        where: code,
        zone,
        body: {
          photographId: newId(),
          occasion: g.occasion,
          note: g.note ? `marked: ${g.note}` : 'marked',
          occurredAt: nowText(),
          planRevision: null,
          position: null,
          picture: await base64Of(picture),
          copyOf: g.id,
        },
      });
    },
    onSuccess: onDone,
  });
  const placeOf = (event: PointerEvent): Place => {
    const box = drawing.current!.getBoundingClientRect();
    const share = (v: number) => Math.min(1, Math.max(0, v));
    return {
      x: share((event.clientX - box.left) / box.width),
      y: share((event.clientY - box.top) / box.height),
    };
  };
  const shown: readonly Mark[] = begun && kind !== 'letter' ? [...marks, { kind, ...begun }] : marks;
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1 }}>
        <ToggleButtonGroup
          exclusive
          value={kind}
          onChange={(_, next: Mark['kind'] | null) => next && setKind(next)}
          aria-label="Mark"
        >
          {markKinds.map((k) => (
            <ToggleButton key={k} value={k} sx={{ minHeight: 48, textTransform: 'none' }}>
              {words[k]}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button sx={gloved} disabled={marks.length === 0} onClick={() => setMarks(marks.slice(0, -1))}>
          Undo
        </Button>
        <Button
          variant="contained"
          sx={gloved}
          disabled={marks.length === 0 || save.isPending}
          onClick={() => save.mutate()}
        >
          {save.isPending ? 'Keeping …' : 'Keep the marked copy'}
        </Button>
      </Box>
      <Box sx={{ position: 'relative', width: 'fit-content', maxWidth: '100%', mx: 'auto' }}>
        {address && (
          <Box
            component="img"
            src={address}
            alt=""
            sx={{ display: 'block', maxWidth: '100%', maxHeight: '58vh' }}
          />
        )}
        <svg
          ref={drawing}
          role="img"
          aria-label={`${marks.length} marks`}
          viewBox={`0 0 ${g.width} ${g.height}`}
          preserveAspectRatio="none"
          style={{
            position: 'absolute',
            inset: 0,
            width: '100%',
            height: '100%',
            touchAction: 'none',
            cursor: 'crosshair',
          }}
          onPointerDown={(event) => {
            const at = placeOf(event);
            if (kind === 'letter') return setMarks([...marks, { kind, at, letter: nextLetter(marks) }]);
            event.currentTarget.setPointerCapture(event.pointerId);
            setBegun({ from: at, to: at });
          }}
          onPointerMove={(event) => begun && setBegun({ ...begun, to: placeOf(event) })}
          onPointerUp={(event) => {
            if (!begun || kind === 'letter') return;
            const to = placeOf(event);
            setBegun(null);
            // A touch that went nowhere is no mark.
            if (Math.hypot(to.x - begun.from.x, to.y - begun.from.y) > 0.01)
              setMarks([...marks, { kind, from: begun.from, to }]);
          }}
        >
          {shown.map((m, i) => {
            const path = markPath(m, g.width, g.height);
            const line = markWidth(g.width);
            return path ? (
              <g key={i} fill="none" strokeLinecap="round" strokeLinejoin="round">
                <path d={path} stroke={markColours.edge} strokeWidth={line * 2} />
                <path d={path} stroke={markColours.line} strokeWidth={line} />
              </g>
            ) : (
              m.kind === 'letter' && (
                <text
                  key={i}
                  x={m.at.x * g.width}
                  y={m.at.y * g.height}
                  fontSize={line * 9}
                  fontWeight={700}
                  textAnchor="middle"
                  dominantBaseline="central"
                  fill={markColours.line}
                  stroke={markColours.edge}
                  strokeWidth={line * 2}
                  paintOrder="stroke"
                >
                  {m.letter}
                </text>
              )
            );
          })}
        </svg>
      </Box>
      <Typography variant="body2" sx={{ mt: 1 }}>
        Drag an arrow or a ring, tap for a letter. The photograph itself stays as it was taken.
      </Typography>
      <ProblemNote error={save.error} />
    </Box>
  );
}
