import type { Role } from '@/contract/permission';
import type { Database } from '@/db/database';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly initials: string;
  readonly role: Role;
}

/** What every use-case is given: who acts, on which database, at what time, over which devices. */
export interface Context {
  readonly db: Database;
  readonly person: Person;
  now(): Date;
  /** Devices that may be dialled: "host:port, host:from-to". */
  readonly deviceAllow: string;
}
