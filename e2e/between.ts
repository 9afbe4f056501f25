import { createServer, request as ask, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A network between browsers and the application: it can go away, lose answers, and bring a newer version of the pages. */
export interface Between {
  url: string;
  /** Nothing gets through, or pages alone: connections are cut. */
  away: boolean | 'requests';
  /** So many changes are handed on, and their answers lost. */
  answersToLose: number;
  /** How many changes went through it. */
  changes: number;
  /** From now on the list of the pages is another: a browser that keeps them takes it for a newer version. */
  newerPages(): void;
  close(): Promise<void>;
}

export async function between(target: string): Promise<Between> {
  let pages = 0;
  const open = new Set<IncomingMessage['socket']>();
  const state: Pick<Between, 'away' | 'answersToLose' | 'changes'> = {
    away: false,
    answersToLose: 0,
    changes: 0,
  };
  const cut = (url = ''): boolean =>
    state.away === true || (state.away === 'requests' && url.startsWith('/api'));
  const server = createServer((incoming: IncomingMessage, answer: ServerResponse) => {
    if (cut(incoming.url)) {
      incoming.socket.destroy();
      return;
    }
    const changes = incoming.method !== 'GET';
    if (changes) state.changes++;
    const onward = ask(
      new URL(incoming.url ?? '/', target),
      { method: incoming.method, headers: incoming.headers, agent: false },
      (came) => {
        const chunks: Buffer[] = [];
        came.on('data', (chunk: Buffer) => chunks.push(chunk));
        came.on('end', () => {
          if (cut(incoming.url) || (changes && state.answersToLose > 0)) {
            if (changes) state.answersToLose = Math.max(0, state.answersToLose - 1);
            incoming.socket.destroy();
            return;
          }
          let body = Buffer.concat(chunks);
          const headers = { ...came.headers };
          if (incoming.url?.startsWith('/ngsw.json') && pages > 0) {
            body = Buffer.from(JSON.stringify({ ...JSON.parse(body.toString()), appData: { pages } }));
            delete headers['content-length'];
            delete headers['etag'];
          }
          answer.writeHead(came.statusCode ?? 502, headers).end(body);
        });
        came.on('error', () => incoming.socket.destroy());
      },
    );
    onward.on('error', () => incoming.socket.destroy());
    // Parts of pages come compressed where they are asked for so: the list is to be read here.
    if (incoming.url?.startsWith('/ngsw.json')) onward.removeHeader('accept-encoding');
    incoming.pipe(onward);
  });
  server.on('connection', (socket) => {
    open.add(socket);
    socket.on('close', () => open.delete(socket));
  });
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  return Object.assign(state, {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    newerPages: () => void pages++,
    close: async () => {
      for (const socket of open) socket.destroy();
      await new Promise((closed) => server.close(closed));
    },
  });
}
