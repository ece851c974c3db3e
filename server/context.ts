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
  /** Devices that may be dialled: "host:port, host:from-to". */
  readonly deviceAllow: string;
}
