import type { Request } from 'express';
import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { judgeLater } from '../links/standing.js';
import { Refusal } from '../problems.js';
import { Archive } from './read.js';
import { takeArchive } from './take.js';

/** No archive is larger; a job of ten thousand links with its traces is a tenth of it. */
const MOST_BYTES = 256 * 1024 * 1024;

async function* bounded(pieces: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let bytes = 0;
  for await (const piece of pieces) {
    bytes += piece.length;
    if (bytes > MOST_BYTES)
      throw new Refusal(413, 'Too large', 'The archive is over 256 MB: no job’s is. Nothing was brought in.');
    yield piece;
  }
}

/** Does something with what is sent, kept in a file meanwhile. */
async function withFile<T>(request: Request, use: (path: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'near-spoke-archive-'));
  try {
    const path = join(folder, 'sent.zip');
    await pipeline(request, bounded, createWriteStream(path, { mode: 0o600 }));
    return await use(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

export function archiveHandlers(context: Context): Pick<Handlers, 'takeArchive'> {
  return {
    takeArchive: async ({ request, crew }) => {
      const taken = await withFile(request, async (path) => {
        const archive = await Archive.open(path);
        try {
          return await context.db.transaction((tx) => takeArchive(tx, archive, crew.id));
        } finally {
          archive.close();
        }
      });
      judgeLater(context);
      return taken;
    },
  };
}
