import { LoggerFault } from '@/devices/logger';
import { inTheWay } from '../problem';

/**
 * Asks the logger; its silence becomes a refusal in plain words.
 *
 * @param what what the logger did not do: a sentence without its end
 * @param remedy what is safe, and what to do
 */
export async function askLogger<T>(work: () => Promise<T>, what: string, remedy: string): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof LoggerFault)) throw error;
    throw inTheWay('logger-silent', `${what}: ${error.message}.`, remedy);
  }
}
