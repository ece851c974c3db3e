import type { Transaction } from 'sequelize';
import { audit } from './audit';
import type { Context } from '../context';
import { addLine, type NewLine } from './fieldBook';

/** What an act at a station leaves behind beside what it changed. */
export interface Act extends NewLine {
  /** For the audit trail, "check.close". */
  readonly action: string;
  /** What it was about, likewise. */
  readonly subject?: unknown;
}

/**
 * Leaves an act's line in the field book and its line in the audit trail, in the transaction of what it
 * changed; the mark that has the station judged anew is the database's own. The one way for acts at a
 * station, so that neither is forgotten.
 */
export async function recordAct(ctx: Context, tx: Transaction, act: Act): Promise<void> {
  const { action, subject = {}, ...line } = act;
  await addLine(ctx, tx, line);
  await audit(ctx, tx, action, line.stationId, subject);
}
