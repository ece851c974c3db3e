import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

export interface RouteFile {
  /** As in "v1/stations/[stationId]". */
  readonly path: string;
  readonly methods: readonly string[];
  /** Use-cases that its signed-in writes call. */
  readonly writes: readonly string[];
}

/** Every route of the interface for programs, as its file says: tables in tests are held against these. */
export function routeFiles(folder = 'app/api'): RouteFile[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry): RouteFile[] => {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory()) return routeFiles(full);
    if (entry.name !== 'route.ts') return [];
    const text = readFileSync(full, 'utf8');
    const handlers = text.split(/^export const (?=[A-Z]+\b)/m).slice(1);
    const writes = handlers.filter((h) => /= (write|receive|secretly|upload)\(/.test(h));
    return [
      {
        path: path.relative('app/api', folder),
        methods: handlers.map((h) => /^[A-Z]+/.exec(h)![0]),
        writes: writes.flatMap((h) => [...h.matchAll(/(\w+)\(\s*ctx\b/g)].map((m) => m[1]!)),
      },
    ];
  });
}

/** Every method of every route, "POST v1/kit". */
export const everyRoute = (): string[] =>
  routeFiles()
    .flatMap((f) => f.methods.map((m) => `${m} ${f.path}`))
    .sort();
