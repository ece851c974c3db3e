import { ConnectionAcquireTimeoutError, ConnectionError, UniqueConstraintError } from 'sequelize';
import { brokenRule } from './database';

/** Why the database did not do what was asked, told apart by its codes and the names of its rules. */
export type Failure =
  /** It does not answer, or the connection was lost. */
  | { readonly kind: 'away' }
  /** A lock was not had in time, or two waited for each other. */
  | { readonly kind: 'busy' }
  | { readonly kind: 'too-long' }
  /** A value no column holds. */
  | { readonly kind: 'not-stored' }
  /** What was to be changed is closed for ever. */
  | { readonly kind: 'closed' }
  | { readonly kind: 'taken-back' }
  | { readonly kind: 'already-there' };

/** Rules that close a row once (migrations 0001 and 0006). */
export const closingRules = [
  'reference_check_closed',
  'device_action_settled',
  'setting_revision_written',
  'own_setting_written',
  'check_reading_excluded',
  'record_import_over',
  'operation_over',
  'alarm_over',
  'alarm_acknowledged',
  'alarm_shelf_ended',
  'alarm_message_settled',
  'alarm_proof_ended',
] as const;

/** The driver says by this sentence alone, without a code, that a connection ended while it was used. */
const endedInUse = /^Connection terminated/;

/** What kind of failure an error of the database is; null for any other error. */
export function failureOf(error: unknown): Failure | null {
  const { code = '', parent } = error as { code?: string; parent?: { code?: string } };
  const sql = parent?.code ?? code;
  if (
    error instanceof ConnectionError ||
    error instanceof ConnectionAcquireTimeoutError ||
    /^(57P0|08)/.test(sql) ||
    ['ECONNREFUSED', 'ECONNRESET'].includes(sql) ||
    (error instanceof Error && endedInUse.test(error.message))
  )
    return { kind: 'away' };
  const rule = brokenRule(error) ?? '';
  if ((closingRules as readonly string[]).includes(rule)) return { kind: 'closed' };
  if (rule === 'layer_revoked') return { kind: 'taken-back' };
  if (sql === '55P03' || sql === '40P01') return { kind: 'busy' };
  if (sql === '57014') return { kind: 'too-long' };
  if (sql.startsWith('22')) return { kind: 'not-stored' };
  if (error instanceof UniqueConstraintError) return { kind: 'already-there' };
  return null;
}
