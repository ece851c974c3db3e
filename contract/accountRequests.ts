import { roles, type Role } from './permission';
import { id, name as nameOf } from '@/schema/pieces';
import { must, oneOf, shape, text, yesNo } from '@/schema/shape';

const secret = must(text((s) => s.min(1).max(200)));
const name = must(nameOf(60));
const initials = must(nameOf(8));
const role = must(oneOf<Role>()(...roles));

export interface InvitePerson {
  personId: string;
  name: string;
  initials: string;
  role: Role;
}
export const invitePerson = shape<InvitePerson>({ personId: id, name, initials, role });

export interface ChangePerson {
  role: Role;
  disabled: boolean;
}
export const changePerson = shape<ChangePerson>({ role, disabled: must(yesNo()) });

export interface ChangePassword {
  current: string;
  password: string;
}
export const changePassword = shape<ChangePassword>({ current: secret, password: secret });

/** One session, or without an id all others. */
export interface EndSessions {
  sessionId?: string;
}
export const endSessions = shape<EndSessions>({ sessionId: text((s) => s.uuid()) });

export interface UsePasswordLink {
  token: string;
  /** Absent to ask only whose it is. */
  password?: string;
}
export const usePasswordLink = shape<UsePasswordLink>({
  token: secret,
  password: text((s) => s.max(200)),
});

export interface FirstAdministrator {
  code: string;
  name: string;
  initials: string;
  password: string;
}
export const firstAdministrator = shape<FirstAdministrator>({
  code: secret,
  name,
  initials,
  password: secret,
});
