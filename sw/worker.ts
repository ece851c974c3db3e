/// <reference lib="webworker" />
import { openTaken } from '../ui/taken/store';
import { takeOverMessage } from '../contract/shell';
import { answerPage, ruleFor } from './rules';

declare const self: ServiceWorkerGlobalScope;
/** Put in by the build: the application's hashed files, and a name for all of them together. */
declare const SHELL_FILES: readonly string[];
declare const SHELL_VERSION: string;

const name = `outer-cairn shell ${SHELL_VERSION}`;
const shellPage = '/away';

self.addEventListener('install', (event) => event.waitUntil(keep()));
self.addEventListener('activate', (event) => event.waitUntil(takeOver()));
self.addEventListener('message', (event) => {
  if (event.data === takeOverMessage) void self.skipWaiting();
});

async function keep(): Promise<void> {
  const cache = await caches.open(name);
  await cache.addAll([...SHELL_FILES, new Request(shellPage, { cache: 'reload' })]);
}

async function takeOver(): Promise<void> {
  for (const other of await caches.keys())
    if (other.startsWith('outer-cairn shell ') && other !== name) await caches.delete(other);
  await self.clients.claim();
}

/** Pages that were drawn from the device: their links go on as whole pages, and ask for nothing beforehand. */
const awayPages = new Set<string>();

self.addEventListener('fetch', (event) => {
  const { request } = event;
  switch (ruleFor(request, self.location.origin)) {
    case 'file':
      event.respondWith(
        // Their names are of what is in them; what stands after a name is for the script itself.
        caches.match(request, { ignoreSearch: true }).then((kept) => {
          if (!kept) return fetch(request);
          return request.destination === 'worker' ? asAskedFor(kept) : kept;
        }),
      );
      return;
    case 'page':
      event.respondWith(
        answerPage(
          {
            network: () => fetch(request),
            shell: async () => {
              awayPages.add(event.resultingClientId);
              return (await caches.open(name)).match(shellPage);
            },
            holds,
            wait: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
          },
          request.cache === 'reload' || request.cache === 'no-cache',
        ),
      );
      return;
    case 'part':
      if (awayPages.has(event.clientId)) event.respondWith(Response.error());
      return;
    case 'pass':
      return;
  }
});

/**
 * A kept script of a worker under the address it was asked for: a worker takes the address of the answer for its
 * own, and reads there what it was begun with.
 */
const asAskedFor = ({ body, status, headers }: Response): Response => new Response(body, { status, headers });

async function holds(): Promise<boolean> {
  const db = await openTaken();
  try {
    return (await db.count('stop')) > 0;
  } finally {
    db.close();
  }
}
