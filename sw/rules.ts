/**
 * What the shell does with a request. It keeps the application's own files and one page without a person in
 * it; whatever holds data passes it by, so that nobody is ever shown another's.
 */
export type Rule =
  | 'file'
  | 'page'
  /** A part of a page that links ask for beforehand and when they are followed. */
  | 'part'
  | 'pass';

/** @param origin the worker's own: nothing else is its business */
export function ruleFor(
  { method, url, mode, headers }: Pick<Request, 'method' | 'url' | 'mode' | 'headers'>,
  origin: string,
): Rule {
  const at = new URL(url);
  if (method !== 'GET' || at.origin !== origin) return 'pass';
  if (at.pathname.startsWith('/_next/static/')) return 'file';
  if (headers.get('rsc') !== null) return 'part';
  return mode === 'navigate' && !at.pathname.startsWith('/api/') ? 'page' : 'pass';
}

/** What a page is answered with. */
export interface PageSources {
  readonly network: () => Promise<Response>;
  /** The page that draws what the device holds. */
  readonly shell: () => Promise<Response | undefined>;
  /** Whether the device holds anything. */
  readonly holds: () => Promise<boolean>;
  readonly wait: (ms: number) => Promise<void>;
}

/** So long the network may take where something is held, ms. Our own choice. */
export const patience = 4_000;

/**
 * A page from the network; from the device where there is none, where it takes too long, or where what stands
 * in front of the application has lost it. Where nothing is held there is nothing to be had from the device,
 * so the network may take its time; so it may when somebody loads a page anew.
 */
export async function answerPage(
  { network, shell, holds, wait }: PageSources,
  isReload: boolean,
): Promise<Response> {
  const fromShell = async (failed: Response | null): Promise<Response> =>
    (await shell()) ?? failed ?? Response.error();
  const asked = network().then(
    (response) => ({ response }),
    () => ({ response: null }),
  );
  const isLimited = !isReload && (await holds().catch(() => false));
  const first = isLimited
    ? await Promise.race([asked, wait(patience).then(() => 'late' as const)])
    : await asked;
  if (first === 'late') return (await shell()) ?? (await asked).response ?? Response.error();
  const { response } = first;
  if (response === null) return fromShell(null);
  // A gateway in front, or the server without its database: what is held says more.
  if (response.status >= 502 && response.status <= 504 && (await holds().catch(() => false)))
    return fromShell(response);
  return response;
}
