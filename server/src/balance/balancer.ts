import { Agent, type IncomingMessage, type RequestListener, type ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { createProxyServer } from 'httpxy';
import type { Problem } from '@near-spoke/contracts';

/** What is sent in one piece of at most so many bytes is kept until it is answered, to be sent to another process. */
const KEPT_BYTES = 1024 * 1024;
/** A process that was not there is left alone for a moment. */
const RESTS_MS = 500;
/** Connections to a process that wait for the next request; each process closes its own later than this. */
const KEEP_ALIVE_MS = 30_000;

interface Target {
  url: string;
  underWay: number;
  restsUntil: number;
}

/**
 * Passes requests on to processes that serve one database, to the one with the fewest under way. A process that is not
 * there costs nothing: another has the request. One that dies over a request that may have changed something is told of
 * with a 503: whoever sent it sends it again under the same id, which keeps it once.
 *
 * @param urls where the processes listen
 */
export function balance(urls: readonly string[]): RequestListener {
  const targets: Target[] = urls.map((url) => ({ url, underWay: 0, restsUntil: 0 }));
  const agent = new Agent({ keepAlive: true, timeout: KEEP_ALIVE_MS });
  const proxy = createProxyServer({ agent });

  /** Those awake come first, and of them the least busy. */
  const next = (tried: readonly Target[]): Target | undefined => {
    const now = Date.now();
    const order = (one: Target): number => (one.restsUntil > now ? 1e9 : 0) + one.underWay;
    return targets.filter((one) => !tried.includes(one)).sort((a, b) => order(a) - order(b))[0];
  };

  return (request, response) => {
    void pass(request, response).catch(() => response.destroy());
  };

  async function pass(request: IncomingMessage, response: ServerResponse): Promise<void> {
    if (request.url === '/metrics') {
      refuse(response, 404, 'Not found', 'Each process tells its own figures, at its own port.');
      return;
    }
    const kept = isShort(request) ? await buffer(request) : null;
    const tried: Target[] = [];
    for (let target = next(tried); target; target = next(tried)) {
      tried.push(target);
      const failure = await tryOne(target, request, response, kept);
      if (failure === null) return;
      const reached = failure.code !== 'ECONNREFUSED';
      if (!reached) target.restsUntil = Date.now() + RESTS_MS;
      const harmless = request.method === 'GET' || request.method === 'HEAD';
      if (response.headersSent || kept === null || (reached && !harmless)) break;
    }
    if (response.headersSent) response.destroy();
    else {
      response.setHeader('Retry-After', '1');
      refuse(response, 503, 'A moment', 'The server begins again just now. Send it once more in a moment.');
    }
  }

  /** @returns what went wrong, null where it was answered or whoever asked has left */
  async function tryOne(
    target: Target,
    request: IncomingMessage,
    response: ServerResponse,
    kept: Buffer | null,
  ): Promise<NodeJS.ErrnoException | null> {
    target.underWay++;
    try {
      await proxy.web(request, response, {
        target: target.url,
        headers: { 'x-forwarded-for': passedOnFor(request) },
        ...(kept ? { buffer: Readable.from([kept]) } : {}),
      });
      return null;
    } catch (error) {
      return error as NodeJS.ErrnoException;
    } finally {
      target.underWay--;
    }
  }
}

const isShort = ({ headers }: IncomingMessage): boolean =>
  headers['transfer-encoding'] === undefined && Number(headers['content-length'] ?? 0) <= KEPT_BYTES;

/** Whoever it came from stands last: what stood there before is that one's word. */
function passedOnFor({ headers, socket }: IncomingMessage): string {
  const before = headers['x-forwarded-for'];
  return [...(before === undefined ? [] : [before].flat()), socket.remoteAddress ?? ''].join(', ');
}

function refuse(response: ServerResponse, status: number, title: string, detail: string): void {
  const problem: Problem = { type: 'about:blank', title, status, detail };
  response.writeHead(status, { 'Content-Type': 'application/problem+json', 'Cache-Control': 'no-store' });
  response.end(JSON.stringify(problem));
}
