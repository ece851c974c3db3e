'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import { MarginLine } from '../shared/MarginLine';
import { usePerson } from '../shared/person';
import { gloved } from '../shared/theme';
import { secondText } from '../shared/time';
import { lostWasSeen, sendNow, useOutbox, useUnsent } from './outbox';
import type { Queued } from './queued';
import { RefusedWrite } from './RefusedWrite';
import { saveAsFile } from './saveAsFile';
import { saysOf, titleOf } from './says';

/** What people did on this device that the server does not have yet, in the order it was done. */
export function Unsent() {
  const person = usePerson();
  const items = useUnsent();
  const { isRead, stopped, lost } = useOutbox();
  const [busy, setBusy] = useState(false);
  const mine = items.filter((i) => i.person.id === person.id);
  const others = items.filter((i) => i.person.id !== person.id);
  return (
    <>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Not sent yet
      </Typography>
      <Typography sx={{ mb: 2, maxWidth: 720 }}>
        What was done on this device is kept on it until the server has it: in order at each station, once. It
        is sent by itself as soon as the application can be reached.
      </Typography>
      {stopped && mine.length > 0 && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 2, color: 'text.primary' }}>
          {stopped.detail} {stopped.remedy}
        </Alert>
      )}
      {lost.length > 0 && (
        <Alert
          severity="error"
          variant="outlined"
          sx={{ mb: 2, color: 'text.primary' }}
          action={<Button onClick={lostWasSeen}>I have looked</Button>}
        >
          This browser lost what it kept. Compare with the field book; whatever is not there has to be entered
          again:
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {lost.map((l) => (
              <li key={l.seq}>
                {titleOf(l)}, {l.where}, {secondText(l.at)}
              </li>
            ))}
          </Box>
        </Alert>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 2 }}>
        <Button
          variant="contained"
          sx={gloved}
          disabled={busy || !mine.some((i) => i.state === 'waits')}
          onClick={() => {
            setBusy(true);
            void sendNow().finally(() => setBusy(false));
          }}
        >
          Send now
        </Button>
        <Button sx={gloved} disabled={mine.length === 0} onClick={() => saveAsFile(mine)}>
          Save what is not sent as a file
        </Button>
      </Box>
      {items.length === 0 && (
        <Typography>{isRead ? 'Everything is sent.' : 'Looking what this device keeps …'}</Typography>
      )}
      <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
        {mine.map((item) => (
          <Line key={item.seq} item={item} isMine>
            {item.state === 'refused' ? (
              <RefusedWrite item={item} />
            ) : (
              <Typography variant="body2" color="text.secondary">
                waits{held(items, item) ? ' behind one that was refused' : ''}
              </Typography>
            )}
          </Line>
        ))}
        {others.map((item) => (
          <Line key={item.seq} item={item} isMine={false}>
            <Typography variant="body2" color="text.secondary">
              waits for {item.person.initials} to sign in on this device
            </Typography>
          </Line>
        ))}
      </Box>
    </>
  );
}

const held = (items: readonly Queued[], item: Queued): boolean =>
  items.some(
    (i) =>
      i.seq < item.seq &&
      i.stationId === item.stationId &&
      i.person.id === item.person.id &&
      i.state === 'refused',
  );

/** What somebody else wrote is theirs: it is said that it waits, not what it says. */
function Line({ item, isMine, children }: { item: Queued; isMine: boolean; children: ReactNode }) {
  const { occurredAt } = item.body as { occurredAt: string };
  const isRefused = item.state === 'refused';
  return (
    <MarginLine
      as="li"
      isKept={false}
      mark={isRefused ? '!' : '↥'}
      colour={isRefused ? 'error.main' : 'warning.main'}
      margin={
        <>
          <time dateTime={occurredAt}>{secondText(occurredAt, item.zone)}</time> · {item.person.initials}
        </>
      }
    >
      <Typography>
        <b>{titleOf(item)}</b> · {item.where}
        {isMine && `: ${saysOf(item)}`}
      </Typography>
      {children}
    </MarginLine>
  );
}
