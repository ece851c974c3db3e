'use client';

import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import { Age } from '../shared/Age';
import { Strip } from '../shared/Strip';
import { timeText } from '../shared/time';

/** How often it is tried whether the application can be reached again, ms; an answer that takes so long is none. */
const every = 15_000;
const patience = 5_000;

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

/** Says that a page is drawn from what the device holds, how old that is, and when there is a way back. */
export function AwayStrip({ takenAt }: { takenAt: string | null }) {
  const reached = useReached();
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
