import { LoggerFault } from '@/devices/logger';
import type { Talked } from './deviceAction';
import type { Lease } from './lease';

/** A logger fault as an outcome: failed when nothing was sent, unknown when it may have acted. */
function talkFault(error: unknown): Talked {
  if (!(error instanceof LoggerFault)) throw error;
  return { state: error.mayHaveActed ? 'unknown' : 'failed', outcome: { says: error.message } };
}

/**
 * The talk of a write to a logger: told while its line is ours, then read back. What it did not take is failed, what
 * it may have taken is unknown.
 */
export const writeThenRead =
  (
    write: () => Promise<void>,
    readBack: (lease: Lease) => Promise<Talked>,
    /** Waited for in between, by one that starts anew with what it was told. */
    meanwhile: (lease: Lease) => Promise<void> = async () => {},
  ) =>
  async (lease: Lease): Promise<Talked> => {
    try {
      await lease.renew();
      lease.assertHeld();
      await write();
    } catch (error) {
      return talkFault(error);
    }
    await meanwhile(lease);
    return readBack(lease);
  };
