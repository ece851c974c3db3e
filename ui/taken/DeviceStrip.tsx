'use client';

import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { onEndedElsewhere } from '../shared/api';
import { usePerson } from '../shared/person';
import { Strip } from '../shared/Strip';
import { useShell } from './shell';
import { isSigningOut, signOut } from './signOut';
import { dropTaken, freshen, startTaken } from './taken';

/** A page is at work before what is held is looked after, ms. */
const settled = 4_000;

/** Keeps this device ready for where there is no signal: the shell, what is held, whose it is. */
export function DeviceStrip() {
  const person = usePerson();
  const { newer, takeOver } = useShell();
  useEffect(() => {
    if (isSigningOut()) return void signOut();
    let timer: ReturnType<typeof setTimeout> | undefined;
    void startTaken(person)
      .then(() => (timer = setTimeout(() => void freshen(person.id), settled)))
      .catch(() => undefined);
    return () => clearTimeout(timer);
  }, [person]);
  useEffect(() => onEndedElsewhere(() => void dropTaken()), []);
  if (!newer) return null;
  return (
    <Strip
      label="This application"
      items={[
        {
          key: 'newer',
          mark: '↻',
          colour: 'primary.main',
          body: (
            <>
              A newer version is ready.{' '}
              <Button size="small" onClick={takeOver}>
                Load it
              </Button>
            </>
          ),
        },
      ]}
    />
  );
}
