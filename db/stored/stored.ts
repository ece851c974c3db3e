import { kept, type Shape } from '@/schema/shape';

/**
 * A kind of JSON that the database keeps: its version and its one parser. What is written today is of
 * the newest version; whatever an earlier release wrote is brought up to it when it is read. The first
 * version carries no number; later ones carry `v` (a list is wrapped as `{v, list}`).
 */
export interface Stored<T> {
  readonly what: string;
  readonly version: number;
  /** Throws StoredError for what is newer than this program, or is no such thing at all. */
  read(raw: unknown): T;
  write(value: T): unknown;
}

export class StoredError extends Error {}

/** Brings JSON of one version to the next. */
export type Upgrade = (old: Record<string, unknown>) => unknown;

/**
 * @param what in words, for the sentence when it cannot be read
 * @param upgrades from version 1 to 2, from 2 to 3, …; one more is a new version
 */
export function stored<T>(what: string, shape: Shape<T>, upgrades: readonly Upgrade[] = []): Stored<T> {
  const version = upgrades.length + 1;
  return {
    what,
    version,
    read(raw) {
      const { v = 1, ...rest } = Array.isArray(raw)
        ? { list: raw as unknown }
        : ((raw ?? {}) as { v?: unknown });
      if (typeof v !== 'number' || v > version)
        throw new StoredError(
          `${what} is stored in version ${String(v)} and this program reads up to ${version}: run the newer program.`,
        );
      let value: unknown = 'list' in rest && Object.keys(rest).length === 1 ? rest.list : rest;
      for (const upgrade of upgrades.slice(v - 1)) value = upgrade(value as Record<string, unknown>);
      const read = kept(shape, value);
      if (read.error) throw new StoredError(`${what} cannot be read: ${read.error}.`);
      return read.value as T;
    },
    write: (value) =>
      version === 1 ? value : Array.isArray(value) ? { v: version, list: value } : { v: version, ...value },
  };
}
