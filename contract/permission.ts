/** Who may do what. The route handlers and the interface both read this table. */
export type Role = 'viewer' | 'technician' | 'reviewer' | 'administrator';
export const roles: readonly Role[] = ['viewer', 'technician', 'reviewer', 'administrator'];

export type Permission =
  'view' | 'note' | 'measure' | 'kit' | 'import' | 'mark' | 'approve' | 'set-up' | 'administer';

const granted: Readonly<Record<Permission, readonly Role[]>> = {
  /** Look at everything; change one's own password. */
  view: roles,
  /** Add words to the field book. */
  note: ['technician', 'reviewer', 'administrator'],
  /** Connect, talk, stage, write, check, adjust, collect. */
  measure: ['technician', 'administrator'],
  /** Bring records in from files, and withdraw them. */
  import: ['technician', 'administrator'],
  /** Mark spans, propose corrections, run tests, set thresholds and twins. */
  mark: ['technician', 'reviewer', 'administrator'],
  /** Sign a record off. */
  approve: ['reviewer', 'administrator'],
  /** Keep the list of reference instruments. */
  kit: ['technician', 'administrator'],
  /** Sites, stations, loggers, device profiles: make, rename, move, retire. */
  'set-up': ['technician', 'administrator'],
  /** People and their accounts. */
  administer: ['administrator'],
};

export const may = (role: Role, permission: Permission): boolean => granted[permission].includes(role);
export const rolesWith = (permission: Permission): readonly Role[] => granted[permission];
