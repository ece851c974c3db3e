'use client';

import type { WaterView } from '@/contract/water';
import type { LevelRecord } from '@/core/water/levelSum';
import { useUnsent } from '../outbox/outbox';
import { usePerson } from '../shared/person';
import { useView } from '../shared/useView';
import { withUnsent } from './withUnsent';

/** Levels of a station as they are on this device: what was sent, and what waits. */
export function useWater(initial: WaterView, every?: number) {
  const { data, error, changed } = useView<WaterView>(
    `/api/v1/stations/${initial.stationId}/water`,
    initial,
    every,
  );
  const person = usePerson();
  const unsent = useUnsent().filter((i) => i.person.id === person.id);
  const view = withUnsent(data, unsent);
  const record: LevelRecord = { readings: view.readings, revisions: view.revisions };
  return { view, record, error, changed };
}
