import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddPhotograph, Occasion } from '@/contract/photographs';
import { useDoFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { inServersTime, nowMs } from '../shared/deviceClock';
import { useStationBasics } from '../station/StationBasics';
import { base64Of, positionOf, shrink } from './shrink';

/** What is said of every picture that is added together. */
export interface Said {
  readonly occasion: Occasion;
  readonly note: string;
  readonly keepPosition: boolean;
  readonly planRevision: number | null;
  /** The terminal or the hop it shows; neither for the station. */
  readonly shows: Pick<AddPhotograph, 'terminal' | 'hop'>;
}

/** A picture on its way. Its id stays the same however often it is tried, so it is kept once. */
export interface Sending extends Said {
  readonly id: string;
  readonly file: File;
  /** `kept`: on this device, until it can be sent. */
  readonly state: 'waits' | 'sent' | 'kept' | 'refused';
  readonly error: unknown;
  /** Wanted, and not in its file. */
  readonly withoutPosition: boolean;
}

/** When a picture was taken by its file, whose stamp is this device's clock; never later than now. */
const takenAt = (file: File): string =>
  new Date(Math.min(inServersTime(file.lastModified), nowMs())).toISOString();

/** Pictures made small and sent one after the other; one that is refused stands in nobody's way. */
export function useSending(stationId: string, onSent: () => Promise<unknown>) {
  const doFieldWrite = useDoFieldWrite();
  const { code, zone } = useStationBasics();
  const [list, setList] = useState<readonly Sending[]>([]);
  const mark = (id: string, change: Partial<Sending>) =>
    setList((all) => all.map((s) => (s.id === id ? { ...s, ...change } : s)));
  const work = useMutation({
    mutationFn: async (pictures: readonly Sending[]) => {
      for (const s of pictures) {
        mark(s.id, { state: 'waits', error: null });
        try {
          const position = s.keepPosition ? await positionOf(s.file) : null;
          const body: AddPhotograph = {
            photographId: s.id,
            occasion: s.occasion,
            note: s.note,
            occurredAt: takenAt(s.file),
            planRevision: s.planRevision,
            position,
            picture: await base64Of(await shrink(s.file, s.file.name)),
            ...s.shows,
          };
          const written = await doFieldWrite({
            kind: 'photograph',
            stationId,
            where: code,
            zone,
            body,
          });
          mark(s.id, {
            state: written.kept ? 'kept' : 'sent',
            withoutPosition: s.keepPosition && !position,
          });
        } catch (error) {
          mark(s.id, { state: 'refused', error });
        }
      }
      await onSent();
      setList((all) => all.filter((s) => (s.state !== 'sent' && s.state !== 'kept') || s.withoutPosition));
    },
  });
  return {
    list,
    busy: work.isPending,
    add(files: Iterable<File>, said: Said) {
      const more = [...files].map((file): Sending => ({
        ...said,
        id: newId(),
        file,
        state: 'waits',
        error: null,
        withoutPosition: false,
      }));
      setList((all) => [...all, ...more]);
      work.mutate(more);
    },
    again: (s: Sending) => work.mutate([s]),
    drop: (id: string) => setList((all) => all.filter((s) => s.id !== id)),
  };
}
