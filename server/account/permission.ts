import { may, rolesWith, type Permission } from '@/contract/permission';
import type { Person } from '../context';
import { Problem } from '../problem';

/** Refuses with 403 when the person's role does not cover what they ask for. */
export function requirePermission(person: Person, permission: Permission): void {
  if (may(person.role, permission)) return;
  throw new Problem({
    code: 'not-allowed',
    status: 403,
    title: 'Not allowed',
    detail: `A ${person.role} may not do this.`,
    remedy: `Ask a ${
      rolesWith(permission)
        .filter((r) => r !== 'administrator')
        .join(' or a ') || 'n administrator'
    }.`.replace('a n ', 'an '),
  });
}
