import Joi from 'joi';
import { roles, type Role } from './permission';
import { id } from './schema';

const secret = Joi.string().min(1).max(200).required();
const name = Joi.string().trim().min(1).max(60).required();
const initials = Joi.string().trim().min(1).max(8).required();
const role = Joi.string()
  .valid(...roles)
  .required();

export interface InvitePerson {
  personId: string;
  name: string;
  initials: string;
  role: Role;
}
export const invitePerson = Joi.object<InvitePerson>({ personId: id, name, initials, role });

export interface ChangePerson {
  role: Role;
  disabled: boolean;
}
export const changePerson = Joi.object<ChangePerson>({ role, disabled: Joi.boolean().required() });

export interface ChangePassword {
  current: string;
  password: string;
}
export const changePassword = Joi.object<ChangePassword>({ current: secret, password: secret });

/** One session, or without an id all others. */
export interface EndSessions {
  sessionId?: string;
}
export const endSessions = Joi.object<EndSessions>({ sessionId: Joi.string().uuid() });

export interface UsePasswordLink {
  token: string;
  /** Absent to ask only whose it is. */
  password?: string;
}
export const usePasswordLink = Joi.object<UsePasswordLink>({
  token: secret,
  password: Joi.string().max(200),
});

export interface FirstAdministrator {
  code: string;
  name: string;
  initials: string;
  password: string;
}
export const firstAdministrator = Joi.object<FirstAdministrator>({
  code: secret,
  name,
  initials,
  password: secret,
});
