'use client';

import { useMutation } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import type { FieldWriteKind } from '@/contract/fieldWrites';
import { usePerson } from '../shared/person';
import { doFieldWrite, type Intended, type Written } from './outbox';

/**
 * Does field writes for a form. What is refused at once is thrown, as long as the form is on screen and still
 * holds what was entered; otherwise it stays in the outbox as a line to be settled.
 */
export function useDoFieldWrite() {
  const person = usePerson();
  const onScreen = useRef(false);
  useEffect(() => {
    onScreen.current = true;
    return () => {
      onScreen.current = false;
    };
  }, []);
  return useCallback(
    <K extends FieldWriteKind, T = unknown>(intended: Intended<K>): Promise<Written<T>> =>
      doFieldWrite<K, T>(person, intended, () => onScreen.current),
    [person],
  );
}

/**
 * A field write from a form: kept on this device, then sent. `onDone` is told whether it waits still; what is
 * refused at once is the mutation's error, as with any other write.
 */
export function useFieldWrite<K extends FieldWriteKind, T = unknown>(
  onDone: (written: Written<T>) => void | Promise<void> = () => {},
) {
  const doIt = useDoFieldWrite();
  return useMutation({
    mutationFn: (intended: Intended<K>) => doIt<K, T>(intended),
    onSuccess: onDone,
  });
}
