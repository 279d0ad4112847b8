import http from 'node:http';
import next from 'next';
import { readConfig } from './config';
import { CLIENT_HEADER } from './http/client';
import { refusalOf } from './http/framework';
import { pageHeaders, withNonce } from './http/page-headers';
import { openStreams } from './http/sse';
import { log } from './log';

/**
 * The web process: the framework behind a server of our own, which drops what no route should see, says where a request comes from, and puts
 * the headers of security on every answer.
 */
const config = readConfig(process.env);
const port = Number(process.env.TYPICA_WEB_PORT);
const app = next({ dev: false, dir: process.cwd(), hostname: '127.0.0.1', port });
await app.prepare();
const handle = app.getRequestHandler();
const common = Object.entries(pageHeaders(config.origin));

/** Where a request comes from: the other end, or what the operator's own proxy says of it. */
function cameFrom(request: http.IncomingMessage): string {
  const forwarded = config.behindProxy
    ? String(request.headers['x-forwarded-for'] ?? '')
        .split(',')
        .at(-1)!
        .trim()
    : '';
  return forwarded || request.socket.remoteAddress || 'unknown';
}

const server = http.createServer(
  // Slow senders are cut off: headers within 15 s, an upload of 100 MB within a quarter of an hour.
  { headersTimeout: 15_000, requestTimeout: 15 * 60_000, keepAliveTimeout: 5000, maxHeaderSize: 32 * 1024 },
  (request, response) => {
    const refusal = refusalOf(request);
    for (const [name, value] of common) response.setHeader(name, value);
    if (refusal) {
      response.writeHead(refusal.status, { 'content-type': 'application/problem+json', connection: 'close' });
      response.end(JSON.stringify(refusal));
      return;
    }
    request.headers[CLIENT_HEADER] = cameFrom(request);
    if (!request.url!.startsWith('/api/')) {
      // The framework takes the nonce for its own scripts from the request.
      const policy = withNonce(config.origin);
      request.headers['content-security-policy'] = policy;
      response.setHeader('content-security-policy', policy);
    }
    handle(request, response).catch((error: unknown) => {
      log.error({ err: error }, 'the framework failed');
      if (!response.headersSent) response.writeHead(500);
      response.end();
    });
  },
);
server.maxConnections = 4000;

/** Connections that one place may hold: a household of browsers needs few, and nobody gets all. */
const MAX_FROM_ONE_PLACE = 400;
const open = new Map<string, number>();
server.on('connection', (socket) => {
  const place = socket.remoteAddress ?? 'unknown';
  const held = (open.get(place) ?? 0) + 1;
  // Behind a proxy all come from one place; there the proxy counts.
  if (!config.behindProxy && held > MAX_FROM_ONE_PLACE) return void socket.destroy();
  open.set(place, held);
  socket.once('close', () => {
    const left = open.get(place)! - 1;
    if (left > 0) open.set(place, left);
    else open.delete(place);
  });
});
server.listen(port, '127.0.0.1', () => log.info({ port }, 'web listens'));

const STOP_MS = 5000;
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => {
    // An open stream would keep the server from closing.
    for (const close of [...openStreams().keys()]) close();
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), STOP_MS).unref();
  });
process.on('unhandledRejection', (reason) => log.error({ err: reason }, 'a rejection nobody handled'));
