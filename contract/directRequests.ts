import { finite, id, occurredAt, words } from '@/schema/pieces';
import { listOf, must, oneOf, shape, text } from '@/schema/shape';

/** What was said on a serial port of the person's own computer, to be kept in the field book. */
export interface KeepDirect {
  lineId: string;
  occurredAt: string;
  kind: 'read' | 'write' | 'scan';
  /** At which speed and parity, whom, what came: a sentence. */
  says: string;
  frames: readonly { direction: 'sent' | 'received' | 'too-late'; hex: string; after: number }[];
}
export const keepDirect = shape<KeepDirect>({
  lineId: id,
  occurredAt,
  kind: must(oneOf<KeepDirect['kind']>()('read', 'write', 'scan')),
  says: must(words(3)),
  frames: must(
    listOf(
      shape<KeepDirect['frames'][number]>({
        direction: must(oneOf<'sent' | 'received' | 'too-late'>()('sent', 'received', 'too-late')),
        hex: must(text((s) => s.max(2000).pattern(/^[0-9A-F ]*$/))),
        after: must(finite((n) => n.min(0))),
      }),
      (a) => a.max(20),
    ),
  ),
});
