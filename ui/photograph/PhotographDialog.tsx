'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { PhotographView } from '@/contract/photographs';
import { send } from '../shared/api';
import { placeText } from '../shared/place';
import { ProblemNote } from '../shared/ProblemNote';
import { timeText } from '../shared/time';
import { useKeys } from '../shared/useKeys';
import { MarkPicture } from './MarkPicture';
import { Picture } from './Picture';
import { pictureText } from './pictureText';

/** One photograph large; arrow keys turn to the next. */
export function PhotographDialog({
  stationId,
  zone,
  all,
  id,
  mayTakeBack,
  onTurn,
  onClose,
  onTakenBack,
}: {
  stationId: string;
  zone: string;
  all: readonly PhotographView[];
  id: string;
  mayTakeBack: boolean;
  onTurn: (id: string) => void;
  onClose: () => void;
  onTakenBack: () => Promise<unknown>;
}) {
  const at = all.findIndex((g) => g.id === id);
  const shown = all[at];
  const [reason, setReason] = useState<string | null>(null);
  const [isMarking, setIsMarking] = useState(false);
  const takeBack = useMutation({
    mutationFn: () => send('POST', `/api/v1/stations/${stationId}/photographs/${id}/take-back`, { reason }),
    onSuccess: onTakenBack,
  });
  const turn = (by: number) => {
    const next = all[at + by];
    if (!next) return;
    setReason(null);
    setIsMarking(false);
    takeBack.reset();
    onTurn(next.id);
  };
  useKeys({ ArrowLeft: () => turn(-1), ArrowRight: () => turn(1) });
  if (!shown) return null;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth aria-labelledby="photograph">
      <DialogTitle id="photograph">{pictureText(shown)}</DialogTitle>
      <DialogContent>
        {isMarking ? (
          <MarkPicture stationId={stationId} photograph={shown} onDone={onTakenBack} />
        ) : (
          <Picture
            stationId={stationId}
            id={shown.id}
            size="large"
            alt={pictureText(shown)}
            width={shown.width}
            height={shown.height}
            sx={{ display: 'block', width: '100%', height: 'auto', maxHeight: '62vh', objectFit: 'contain' }}
          />
        )}
        <Typography variant="body2" sx={{ mt: 1 }}>
          {timeText(shown.takenAt, zone)} by {shown.initials}
          {shown.planRevision !== null && `, plan revision ${shown.planRevision}`}
          {shown.latitude !== null &&
            shown.longitude !== null &&
            `, at ${placeText(shown.latitude, shown.longitude, 5)}`}
        </Typography>
        {reason !== null && (
          <TextField
            label="Why it is taken back"
            value={reason}
            autoFocus
            fullWidth
            sx={{ mt: 1.5 }}
            onChange={(e) => setReason(e.target.value)}
          />
        )}
        <ProblemNote error={takeBack.error} />
      </DialogContent>
      <DialogActions sx={{ flexWrap: 'wrap' }}>
        {mayTakeBack &&
          (reason === null ? (
            <Button onClick={() => setReason('')} sx={{ mr: 'auto' }}>
              Take back …
            </Button>
          ) : (
            <Button
              sx={{ mr: 'auto' }}
              disabled={!reason.trim() || takeBack.isPending}
              onClick={() => takeBack.mutate()}
            >
              Take it back
            </Button>
          ))}
        {mayTakeBack && (
          <Button onClick={() => setIsMarking((m) => !m)}>
            {isMarking ? 'Without marks' : 'Mark a copy'}
          </Button>
        )}
        <Button disabled={at <= 0} onClick={() => turn(-1)}>
          Newer
        </Button>
        <Button disabled={at >= all.length - 1} onClick={() => turn(1)}>
          Older
        </Button>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
