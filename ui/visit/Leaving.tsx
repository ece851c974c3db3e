'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { VisitView } from '@/contract/visits';
import { matterKey, matterText, openKinds } from '@/core/visit/openMatter';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { Age } from '../shared/Age';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { placeOfMatter } from './placeOfMatter';

/** A reason holds so many characters at least: "wet" explains nothing in a month. */
const leastReason = 3;

/**
 * Leaving. What is open stops softly: it is seen to, or it is said of each why it stays so; then it goes to the
 * top of the Round.
 *
 * @param isStale the server could not be asked what is open just now
 */
export function Leaving({
  visit,
  isStale,
  onDone,
}: {
  visit: VisitView;
  isStale: boolean;
  onDone: () => Promise<void>;
}) {
  const [isLeaving, setIsLeaving] = useState(false);
  const [reasons, setReasons] = useState<Readonly<Record<string, string>>>({});
  const leave = useFieldWrite<'leave'>(async () => {
    setIsLeaving(false);
    setReasons({});
    await onDone();
  });
  const { open } = visit;
  const reasonOf = (key: string) => reasons[key]?.trim() ?? '';
  const unsaid = open.filter((m) => reasonOf(matterKey(m)).length < leastReason).length;
  const go = () =>
    leave.mutate({
      kind: 'leave',
      stationId: visit.stationId,
      where: visit.code,
      zone: visit.zone,
      body: {
        departureId: newId(),
        leftOpen: open.map((m) => ({ matter: matterKey(m), reason: reasonOf(matterKey(m)) })),
        away: isStale,
        occurredAt: nowText(),
      },
    });
  const refused = (
    <ProblemNote error={leave.error}>
      <Button sx={{ ...gloved, mt: 1 }} onClick={() => void onDone().then(() => leave.reset())}>
        Look again what is open
      </Button>
    </ProblemNote>
  );
  if (!isLeaving)
    return (
      <>
        <Button
          sx={gloved}
          disabled={leave.isPending}
          onClick={() => (open.length > 0 ? setIsLeaving(true) : go())}
        >
          Leave
        </Button>
        {refused}
      </>
    );
  return (
    <Alert
      severity="warning"
      variant="outlined"
      sx={{
        color: 'text.primary',
        order: 2,
        flexBasis: '100%',
        '& .MuiAlert-message': { flexGrow: 1, minWidth: 0 },
      }}
    >
      <Box
        component="form"
        aria-label="Leave"
        onSubmit={(e) => {
          e.preventDefault();
          if (unsaid === 0) go();
        }}
        sx={{ display: 'grid', gap: 1.5 }}
      >
        <Typography variant="h3">{open.length} still open here</Typography>
        {open.map((m) => {
          const key = matterKey(m);
          return (
            <Box key={key} sx={{ display: 'grid', gap: 0.5 }}>
              <Typography>
                <b>{matterText(m)}</b>, for <Age at={new Date(m.since).toISOString()} ago={false} />.{' '}
                <Link component={PageLink} href={placeOfMatter(visit.stationId, m)}>
                  {openKinds[m.kind].next}
                </Link>
              </Typography>
              <TextField
                label="Why it stays open"
                value={reasons[key] ?? ''}
                onChange={(e) => setReasons({ ...reasons, [key]: e.target.value })}
                slotProps={{ htmlInput: { maxLength: 500, 'aria-label': `Why it stays open: ${m.who}` } }}
              />
            </Box>
          );
        })}
        <Typography variant="body2">
          What stays open goes to the top of the Round with its age and your reason.
        </Typography>
        {refused}
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button sx={gloved} variant="contained" onClick={() => setIsLeaving(false)}>
            Stay and see to it
          </Button>
          <Button type="submit" sx={gloved} disabled={unsaid > 0 || leave.isPending}>
            {unsaid > 0 ? `Leave all the same: ${unsaid} without a reason` : 'Leave all the same'}
          </Button>
        </Box>
      </Box>
    </Alert>
  );
}
