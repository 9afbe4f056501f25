import type { Job } from '@near-spoke/contracts';
import type { Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readJob } from '../jobs/store.js';
import { handOver, type ToHandOver } from './handover.js';

const TYPES: Readonly<Record<ToHandOver['kind'], string>> = {
  pdf: 'application/pdf',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
};

/** A file name that every system takes: letters, figures and dashes. */
const fileName = ({ title }: Job, extension: string): string =>
  `handover-${
    title
      .normalize('NFKD')
      .replace(/[^\w]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'job'
  }.${extension}`;

export function handoverHandlers({
  db,
  databaseUrl,
}: Context): Pick<Handlers, 'handoverPdf' | 'handoverCsv' | 'handoverJson'> {
  /** Sends a file as it is made; who leaves ends the work on it. */
  const send = async (
    kind: ToHandOver['kind'],
    { params, crew, response }: { params: { jobId: string }; crew: { name: string }; response: Response },
  ): Promise<void> => {
    const job = await readJob(db, params.jobId);
    const made = { at: new Date().toISOString(), by: crew.name };
    const pieces = handOver({ url: databaseUrl, jobId: job.id, kind, made });
    // What is refused is refused before the answer begins.
    const first = await pieces.next();
    response.type(TYPES[kind]).attachment(fileName(job, kind));
    try {
      await pipeline(Readable.from(after(first, pieces)), flushing(response), response);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    }
  };
  return {
    handoverPdf: (call) => send('pdf', call),
    handoverCsv: (call) => send('csv', call),
    handoverJson: (call) => send('json', call),
  };
}

async function* after<T>(first: IteratorResult<T>, rest: AsyncGenerator<T>): AsyncGenerator<T> {
  try {
    if (!first.done) yield first.value;
    yield* rest;
  } finally {
    await rest.return(undefined);
  }
}

/** What is sent is seen at once, not when a compressor has gathered enough. */
const flushing = (response: Response) =>
  async function* (pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const piece of pieces) {
      yield piece;
      (response as { flush?: () => void }).flush?.();
    }
  };
