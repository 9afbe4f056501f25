import { createServer, get, type IncomingMessage, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { balance } from '../src/balance/balancer.js';

/** A server on a port of its own, or the port it is given. */
async function listening(
  listener: RequestListener,
  port = 0,
): Promise<{ server: Server; port: number; url: string }> {
  const server = createServer(listener);
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  const { port: own } = server.address() as AddressInfo;
  return { server, port: own, url: `http://127.0.0.1:${own}` };
}

async function ended(server: Server): Promise<void> {
  server.closeAllConnections();
  await new Promise((resolve) => server.close(resolve));
}

describe('the balancer before several processes', () => {
  let open: Server[];
  beforeEach(() => (open = []));
  afterEach(() => Promise.all(open.map((server) => ended(server))));

  const process = async (
    listener: RequestListener,
  ): Promise<{ server: Server; port: number; url: string }> => {
    const one = await listening(listener);
    open.push(one.server);
    return one;
  };
  const before = async (...urls: string[]): Promise<string> => (await process(balance(urls))).url;

  /** Answers what it was sent, by name. */
  const echo =
    (name: string): RequestListener =>
    (request, response) => {
      void text(request).then((body) => {
        const { method, url, headers } = request;
        response.setHeader('x-by', name);
        response.end(
          JSON.stringify({ method, url, body, from: headers['x-forwarded-for'], host: headers.host }),
        );
      });
    };

  it('passes on what was asked as it was asked, and says whom it came from last', async () => {
    const url = await before((await process(echo('a'))).url);
    const answer = await fetch(`${url}/api/jobs?x=1`, {
      method: 'POST',
      body: '{"id":"é"}',
      headers: { 'x-forwarded-for': '203.0.113.9' },
    });
    expect(await answer.json()).toEqual({
      method: 'POST',
      url: '/api/jobs?x=1',
      body: '{"id":"é"}',
      from: '203.0.113.9, 127.0.0.1',
      host: new URL(url).host,
    });
  });

  it('gives the next request to whoever has the fewest under way', async () => {
    const held: (() => void)[] = [];
    const slow: RequestListener = (request, response) => {
      response.setHeader('x-by', 'slow');
      if (request.url === '/slow') held.push(() => response.end('late'));
      else response.end('quick');
    };
    const url = await before((await process(slow)).url, (await process(echo('other'))).url);
    const late = fetch(`${url}/slow`);
    while (held.length === 0) await new Promise((later) => setTimeout(later, 5));
    for (let n = 0; n < 5; n++) expect((await fetch(`${url}/${n}`)).headers.get('x-by')).toBe('other');
    held[0]?.();
    expect(await (await late).text()).toBe('late');
  });

  it('goes to another when one is not there, with whatever was sent, and comes back to it', async () => {
    const gone = await process(echo('first'));
    const url = await before(gone.url, (await process(echo('second'))).url);
    const port = gone.port;
    await ended(gone.server);
    for (let n = 0; n < 4; n++) {
      const answer = await fetch(`${url}/api/links/${n}/tests`, { method: 'POST', body: `{"id":${n}}` });
      expect(answer.headers.get('x-by')).toBe('second');
      expect(((await answer.json()) as { body: string }).body).toBe(`{"id":${n}}`);
    }
    const again = await listening(echo('first'), port);
    open[0] = again.server;
    const seen = new Set<string | null>();
    for (let n = 0; n < 200 && !seen.has('first'); n++) {
      seen.add((await fetch(url)).headers.get('x-by'));
      await new Promise((later) => setTimeout(later, 10));
    }
    expect(seen).toContain('first');
  });

  it('tries again what only looks, and never what may have changed something: that is told', async () => {
    let asked = 0;
    const dying: RequestListener = (request) => {
      asked++;
      request.socket.destroy();
    };
    const url = await before((await process(dying)).url, (await process(echo('well'))).url);
    for (let n = 0; n < 4; n++) expect((await fetch(url)).status).toBe(200);
    expect(asked).toBeGreaterThan(0);
    const both = await before((await process(dying)).url, (await process(dying)).url);
    asked = 0;
    const answer = await fetch(both, { method: 'POST', body: '{}' });
    expect(answer.status).toBe(503);
    expect(answer.headers.get('retry-after')).toBe('1');
    expect(((await answer.json()) as { detail: string }).detail).toContain('Send it once more');
    expect(asked).toBe(1);
  });

  it('answers in words when none is there, and does not pass an answer that broke off for a whole one', async () => {
    const gone = await listening(echo('gone'));
    await ended(gone.server);
    expect((await fetch(await before(gone.url))).status).toBe(503);
    const half: RequestListener = (request, response) => {
      response.writeHead(200, { 'content-length': '1000' });
      response.write('half of it');
      setTimeout(() => request.socket.destroy(), 20);
    };
    const url = await before((await process(half)).url);
    await expectAsync(fetch(url).then((answer) => answer.text())).toBeRejected();
  });

  it('ends the work of who has left', async () => {
    const left = new Promise<void>((resolve) => {
      void process((_request, response) => void response.once('close', () => resolve())).then(
        async ({ url }) => {
          const asking = get(await before(url));
          asking.on('error', () => undefined);
          setTimeout(() => asking.destroy(), 50);
        },
      );
    });
    await expectAsync(left).toBeResolved();
  });

  it('lets events through as they come, and tells no figures of any process', async () => {
    const stream: RequestListener = (_request, response) => {
      response.writeHead(200, { 'content-type': 'text/event-stream' });
      response.write('data: 1\n\n');
    };
    const url = await before((await process(stream)).url);
    const answer = await new Promise<IncomingMessage>((resolve) => get(url, resolve));
    const first = await new Promise<Buffer>((resolve) => answer.once('data', resolve));
    expect(first.toString()).toBe('data: 1\n\n');
    answer.destroy();
    expect((await fetch(`${url}/metrics`)).status).toBe(404);
  });
});
