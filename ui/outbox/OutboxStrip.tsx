'use client';

import Link from '@mui/material/Link';
import { useQueryClient } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useEffect } from 'react';
import { worthTelling } from '@/core/clock/deviceClock';
import { formatAge, formatValue } from '@/core/quantity/format';
import { useClockMeasure } from '../shared/deviceClock';
import { usePerson } from '../shared/person';
import { Strip, type StripItem } from '../shared/Strip';
import { startOutbox, useOutbox, useUnsent } from './outbox';

/** Room below which a person is told, bytes: some forty pictures. Our own choice. */
const littleRoom = 20e6;

/** What is not sent yet, and what is wrong with this device while it can still be mended; runs the outbox. */
export function OutboxStrip() {
  const person = usePerson();
  const client = useQueryClient();
  useEffect(() => startOutbox(person, () => void client.invalidateQueries()), [person, client]);
  const items = useUnsent();
  const { stopped, lost, keepsNothing, room } = useOutbox();
  const clock = useClockMeasure();
  const waiting = items.filter((i) => i.state === 'waits' && i.person.id === person.id).length;
  const others = items.filter((i) => i.person.id !== person.id).length;
  const refused = items.length - others - waiting;
  const look = (text: string) => (
    <Link component={PageLink} href="/unsent" color="inherit">
      {text}
    </Link>
  );
  const strip: StripItem[] = [];
  const say = (key: string, mark: string, colour: string, body: StripItem['body']) =>
    strip.push({ key, mark, colour, body });
  if (refused) say('refused', '!', 'error.main', look(`${refused} refused, to be settled`));
  if (waiting)
    say(
      'waiting',
      '↥',
      'warning.main',
      <>
        {look(`${waiting} kept on this device, not sent yet`)}
        {stopped && `: ${stopped.detail}`}
      </>,
    );
  if (others) say('others', '↥', 'text.secondary', look(`${others} of somebody else wait on this device`));
  if (lost.length) say('lost', '!', 'error.main', look(`${lost.length} that this device kept may be lost`));
  if (clock && Math.abs(clock.ahead) > worthTelling)
    say(
      'clock',
      '◔',
      'error.main',
      `This device’s clock is ${formatAge(Math.abs(clock.ahead))} ${clock.ahead > 0 ? 'ahead of' : 'behind'} the server’s: set it. Until then times are corrected.`,
    );
  if (keepsNothing)
    say(
      'nothing',
      '!',
      'error.main',
      'This browser keeps nothing on the device: without a signal nothing can be noted here.',
    );
  if (room !== null && room < littleRoom)
    say(
      'room',
      '!',
      'error.main',
      `Room for ${formatValue(room / 1e6, 0)} MB more on this device: free some before taking pictures.`,
    );
  return <Strip label="This device" items={strip} />;
}
