'use client';

import { useMutation } from '@tanstack/react-query';
import type { FieldWriteKind } from '@/contract/fieldWrites';
import { usePerson } from '../shared/person';
import { doFieldWrite, type Intended, type Written } from './outbox';

/**
 * A field write from a form: kept on this device, then sent. `onDone` is told whether it waits still; what is
 * refused at once is the mutation's error, as with any other write.
 */
export function useFieldWrite<K extends FieldWriteKind, T = unknown>(
  onDone: (written: Written<T>) => void | Promise<void> = () => {},
) {
  const person = usePerson();
  return useMutation({
    mutationFn: (intended: Intended<K>) => doFieldWrite<K, T>(person, intended),
    onSuccess: onDone,
  });
}
