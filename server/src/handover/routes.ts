import type { Job, LinkDetail } from '@near-spoke/contracts';
import { sql } from 'drizzle-orm';
import type { Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pLimit from 'p-limit';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import { readJob } from '../jobs/store.js';
import { readKit } from '../kit/store.js';
import { readDetails } from '../links/record.js';
import { readLinks } from '../links/store.js';
import { csvHead, csvRow } from './csv.js';
import { sheetPdf } from './pdf.js';
import { makeSheet, toRow } from './sheet.js';

/** Links whose records are read at a time: enough to need few statements, few enough to hold in memory. */
const AT_A_TIME = 200;
/** Handovers that are read at the same time; more wait, so that they never take all connections. */
const READERS = 2;
/** A slow line may pause between two pieces for so long before the snapshot is given up. */
const PATIENCE_MS = 120_000;

/** A file name that every system takes: letters, figures and dashes. */
const fileName = ({ title }: Job, extension: string): string =>
  `handover-${
    title
      .normalize('NFKD')
      .replace(/[^\w]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'job'
  }.${extension}`;

/** A job as it is at one moment: its links' records come piece by piece. */
interface Snapshot {
  job: Job;
  cableNames: ReadonlyMap<string, string>;
  details: AsyncIterable<LinkDetail[]>;
}

export function handoverHandlers({
  db,
}: Context): Pick<Handlers, 'handoverPdf' | 'handoverCsv' | 'handoverJson'> {
  const reader = pLimit(READERS);

  async function* detailsOf(tx: Sql, job: Job): AsyncGenerator<LinkDetail[]> {
    const links = await readLinks(tx, { jobId: job.id });
    for (let n = 0; n < links.length; n += AT_A_TIME)
      yield await readDetails(tx, links.slice(n, n + AT_A_TIME), job);
  }

  /** One snapshot of the job, so that every row speaks of the same moment. */
  const read = (jobId: string, use: (snapshot: Snapshot) => Promise<void>): Promise<void> =>
    reader(() =>
      db.transaction(
        async (tx) => {
          await tx.execute(sql.raw(`SET LOCAL idle_in_transaction_session_timeout = ${PATIENCE_MS}`));
          const job = await readJob(tx, jobId);
          const kit = await readKit(tx);
          const cableNames = new Map(kit.cables.map((cable) => [cable.id, cable.name]));
          await use({ job, cableNames, details: detailsOf(tx, job) });
        },
        { isolationLevel: 'repeatable read', accessMode: 'read only' },
      ),
    );

  /** Sends a file as it is read; who leaves ends the reading. */
  async function send(response: Response, pieces: AsyncIterable<string>): Promise<void> {
    try {
      await pipeline(Readable.from(pieces), response);
    } catch (error) {
      if (!response.destroyed || (error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE')
        throw error;
    }
  }
  const head = (response: Response, job: Job, extension: string, type: string): void => {
    response.type(type).attachment(fileName(job, extension));
  };

  return {
    handoverPdf: ({ params, crew, response }) =>
      read(params.jobId, async ({ job, cableNames, details }) => {
        const whole: LinkDetail[] = [];
        for await (const some of details) whole.push(...some);
        const sheet = makeSheet({ job, details: whole, cableNames });
        const pdf = await sheetPdf(sheet, { at: new Date(), by: crew.name });
        head(response, job, 'pdf', 'application/pdf');
        response.send(pdf);
      }),
    handoverCsv: ({ params, response }) =>
      read(params.jobId, async ({ job, cableNames, details }) => {
        head(response, job, 'csv', 'text/csv; charset=utf-8');
        await send(response, csvPieces(details, cableNames));
      }),
    handoverJson: ({ params, response }) =>
      read(params.jobId, async ({ job, details }) => {
        head(response, job, 'json', 'application/json');
        await send(response, jsonPieces(job, details));
      }),
  };
}

async function* csvPieces(
  details: AsyncIterable<LinkDetail[]>,
  cableNames: ReadonlyMap<string, string>,
): AsyncGenerator<string> {
  yield csvHead;
  for await (const some of details) yield some.map((detail) => csvRow(toRow(detail, cableNames))).join('');
}

/** One link a line, so that even a large file is read and compared with plain tools. */
async function* jsonPieces(job: Job, details: AsyncIterable<LinkDetail[]>): AsyncGenerator<string> {
  yield `{"format":"near-spoke/handover","formatVersion":1,"job":${JSON.stringify(job)},"links":[`;
  let first = true;
  for await (const some of details) {
    yield some.map((detail, n) => `${first && n === 0 ? '\n' : ',\n'}${JSON.stringify(detail)}`).join('');
    first = false;
  }
  yield '\n]}\n';
}
