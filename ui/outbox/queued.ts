import type { DeviceTime } from '@/contract/deviceClock';
import type { FieldWriteBodies, FieldWriteKind } from '@/contract/fieldWrites';
import type { ProblemBody } from '@/contract/problem';

/** A field write as it waits in the outbox of this device. All but its state is fixed at the act. */
export interface Queued<K extends FieldWriteKind = FieldWriteKind> {
  /** Place in the queue; given by the store. */
  readonly seq: number;
  /** Idempotency key: it is done once, however often it is sent. */
  readonly key: string;
  readonly kind: K;
  readonly stationId: string;
  /** Of its address. */
  readonly params: Readonly<Record<string, string>>;
  readonly body: FieldWriteBodies[K];
  /** What it was about, for whoever looks at the queue: station and thing. */
  readonly where: string;
  /** The site's time zone. */
  readonly zone: string;
  readonly person: { readonly id: string; readonly initials: string };
  readonly device: DeviceTime;
  readonly state: 'waits' | 'refused';
  /** Why it was refused, or last could not be sent. */
  readonly problem: ProblemBody | null;
}
export type NewQueued<K extends FieldWriteKind = FieldWriteKind> = Omit<Queued<K>, 'seq'>;

/** Where queued writes are kept. Only when a call has returned is a thing kept, or gone. */
export interface OutboxStore {
  add(item: NewQueued): Promise<Queued>;
  /** In the order of the acts. */
  all(): Promise<Queued[]>;
  put(item: Queued): Promise<void>;
  remove(seq: number): Promise<void>;
}
