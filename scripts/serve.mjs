// The application's web server: what every request goes through before the application sees it.
import { createServer } from 'node:http';
import next from 'next';
import { checkConfiguration } from './configuration.mjs';
import { readiness } from './readiness.mjs';
import { believedAddress, refuseRequest, securityHeaders, timeFor } from './requestRules.mjs';

const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? '127.0.0.1';
const { faults, notes } = checkConfiguration(process.env);
for (const line of [...faults, ...notes]) process.stderr.write(`${line}\n`);
if (faults.length > 0) process.exit(2);

const app = next({ dev: false, dir: process.cwd(), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const databaseReady = readiness(process.env.DATABASE_URL);

const server = createServer(
  (request, response) => void serve(request, response).catch(() => response.destroy()),
);

async function serve(request, response) {
  for (const [name, value] of Object.entries(securityHeaders(process.env.PUBLIC_ORIGIN)))
    response.setHeader(name, value);
  // Forwarded addresses are believed only as far as proxies of our own stand in front.
  request.headers['x-forwarded-for'] = believedAddress(
    request.headers['x-forwarded-for'],
    request.socket.remoteAddress,
    proxyHops(),
  );
  const refused = refuseRequest(request);
  if (refused) return answer(response, refused.status, 'text/plain; charset=utf-8', refused.text);
  // A form is short; a picture, and more so a record file, may take its time over a thin line.
  if (!isUpload(request)) {
    const late = setTimeout(() => request.complete || request.socket.destroy(), timeFor(request.headers));
    response.on('close', () => clearTimeout(late));
  }
  if (isPage(request) && !(await databaseReady()))
    return answer(response, 503, 'text/html; charset=utf-8', awayPage);
  await handle(request, response);
}

/** TRUST_PROXY_HOPS proxies of our own stand in front; TRUST_PROXY=1 means one. */
function proxyHops() {
  const hops = Number(process.env.TRUST_PROXY_HOPS ?? (process.env.TRUST_PROXY === '1' ? 1 : 0));
  return Number.isInteger(hops) && hops > 0 ? hops : 0;
}

const isUpload = ({ method, url }) =>
  method === 'PUT' && /^\/api\/v1\/stations\/[^/]+\/imports\/[^/]+\/file$/.test(url.split('?')[0]);
const isPage = ({ method, url, headers }) =>
  method === 'GET' && !/^\/(api|_next)\//.test(url) && (headers.accept ?? '').includes('text/html');

function answer(response, status, type, text) {
  response.writeHead(status, {
    'content-type': type,
    'cache-control': 'no-store',
    connection: 'close',
    ...(status === 503 && { 'retry-after': '2' }),
  });
  response.end(text);
}

// Plain and whole in itself: nothing of the application can be asked while the database is away.
const awayPage = `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="2">
<title>The database is away – Outer Cairn</title>
<body style="font: 1.05rem/1.5 sans-serif; max-width: 36rem; margin: 3rem auto; padding: 0 1rem; color: #201d18; background: #fbf9f4">
<main role="alert"><h1>The database is away</h1>
<p>Nothing that was saved is lost. This page looks every two seconds and goes on by itself when the database is back.</p></main>`;

server.headersTimeout = 15_000;
server.requestTimeout = 3_600_000;
server.keepAliveTimeout = 10_000;
server.maxHeadersCount = 100;
server.maxConnections = Number(process.env.MAX_CONNECTIONS ?? 512);
// What is no HTTP at all is answered as such, not dropped. A browser opens connections ahead of need: one on which nothing
// came in time gets 408, after which whoever just began to use it asks again on another.
server.on('clientError', (error, socket) => {
  const status = error.code === 'ERR_HTTP_REQUEST_TIMEOUT' ? '408 Request Timeout' : '400 Bad Request';
  if (socket.writable) socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`);
  else socket.destroy();
});
server.listen(port, hostname, () => process.stdout.write(`listening on ${hostname}:${port}\n`));

const stop = () => {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), 5000).unref();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
