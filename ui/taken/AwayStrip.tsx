'use client';

import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { Age } from '../shared/Age';
import { useOutbox, useUnsent } from '../outbox/outbox';
import { usePerson } from '../shared/person';
import { Strip } from '../shared/Strip';
import { timeText } from '../shared/time';

/** How often it is tried whether the application can be reached again, ms; an answer that takes so long is none. */
const every = 15_000;
const patience = 5_000;
/** So long a person may look before a page goes on by itself, ms. */
const goesOnAfter = 2_000;

/** Whether the application answers again; looked for while the page is seen. */
function useReached(): boolean {
  const [reached, setReached] = useState(false);
  useEffect(() => {
    const look = () =>
      void fetch('/api/health/alive', { cache: 'no-store', signal: AbortSignal.timeout(patience) }).then(
        (r) => setReached(r.ok),
        () => setReached(false),
      );
    look();
    const timer = setInterval(() => document.visibilityState === 'visible' && look(), every);
    window.addEventListener('online', look);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', look);
    };
  }, []);
  return reached;
}

/** Whether nobody is in the middle of anything here: no dialog, no form that holds something. */
const isIdle = (): boolean =>
  document.querySelector('[role="dialog"]') === null &&
  !document.activeElement?.matches('input, textarea') &&
  ![...document.querySelectorAll<HTMLInputElement>('main form :is(input, textarea):not([aria-hidden])')].some(
    (field) => (field.type === 'checkbox' ? field.checked : field.value !== ''),
  );

/**
 * With the application back and everything sent, a page that nobody is in the middle of goes on by itself with
 * what is now so: it would go on showing what was taken along, without what was done since.
 */
function useGoOn(reached: boolean): void {
  const person = usePerson();
  const waits = useUnsent().some((i) => i.person.id === person.id && i.state === 'waits');
  const isRead = useOutbox().isRead;
  useEffect(() => {
    if (!reached || waits || !isRead) return;
    const timer = setInterval(() => isIdle() && window.location.reload(), goesOnAfter);
    return () => clearInterval(timer);
  }, [reached, waits, isRead]);
}

/** Says that a page is drawn from what the device holds, how old that is, and when there is a way back. */
export function AwayStrip({ takenAt }: { takenAt: string | null }) {
  const reached = useReached();
  useGoOn(reached);
  return (
    <Strip
      label="Away"
      items={[
        {
          key: 'away',
          mark: reached ? '⇄' : '⌁',
          colour: reached ? 'primary.main' : 'warning.main',
          body: (
            <>
              {reached ? 'The application can be reached again' : 'The application cannot be reached'}
              {takenAt && (
                <>
                  ; this was taken along <Age at={takenAt} />, {timeText(takenAt)}
                </>
              )}
              .{' '}
              <Button size="small" onClick={() => window.location.reload()}>
                {reached ? 'Go on with what is now so' : 'Try again'}
              </Button>
            </>
          ),
        },
      ]}
    />
  );
}
