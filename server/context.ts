import type { DeviceTime } from '@/contract/deviceClock';
import type { Role } from '@/contract/permission';
import type { Database } from '@/db/database';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly initials: string;
  readonly role: Role;
}

/** Who is named for what a context does; null for the command line. */
export const actorId = (ctx: Context): string | null => (ctx.system ? null : ctx.person.id);

/** What every use-case is given: who acts, on which database, at what time, over which devices. */
export interface Context {
  readonly db: Database;
  readonly person: Person;
  /** The command line acts for whoever may run it on the server: no person is named for it. */
  readonly system?: true;
  now(): Date;
  /** What the person's device says of its clock; left out where no device said anything. */
  readonly device?: DeviceTime | null;
  /** Of a field write: the key of the act, under which it is done once. */
  readonly actKey?: string | null;
  /** Devices that may be dialled: "host:port, host:from-to". */
  readonly deviceAllow: string;
}
