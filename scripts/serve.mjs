// The application's web server. Forwarded addresses are believed only behind a configured proxy.
import { createServer } from 'node:http';
import next from 'next';

const port = Number(process.env.PORT ?? 3000);
const hostname = process.env.HOST ?? '127.0.0.1';
const trustProxy = process.env.TRUST_PROXY === '1';

const app = next({ dev: false, dir: process.cwd(), hostname, port });
await app.prepare();
const handle = app.getRequestHandler();
const server = createServer((request, response) => {
  if (!trustProxy || !request.headers['x-forwarded-for'])
    request.headers['x-forwarded-for'] = request.socket.remoteAddress ?? 'unknown';
  void handle(request, response);
});
// A record file may take its time over a thin line.
server.requestTimeout = 3_600_000;
server.listen(port, hostname, () => process.stdout.write(`listening on ${hostname}:${port}\n`));

const stop = () => {
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), 5000).unref();
};
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
