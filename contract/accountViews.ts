import type { Role } from './permission';

export interface PersonRowView {
  id: string;
  name: string;
  initials: string;
  role: Role;
  /** Invited: a link was made and no password chosen yet. */
  state: 'active' | 'invited' | 'disabled';
  lastSignIn: string | null;
}

export interface SessionView {
  id: string;
  since: string;
  seen: string;
  until: string;
  address: string;
  device: string;
  /** The one that asks. */
  own: boolean;
}
