import type { Response } from 'express';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readJob } from '../jobs/store.js';
import { readKit } from '../kit/store.js';
import { readDetail } from '../links/record.js';
import { readLinks } from '../links/store.js';
import { sheetCsv } from './csv.js';
import { sheetPdf } from './pdf.js';
import { makeSheet, type Sheet } from './sheet.js';

/** A file name that every system takes: letters, figures and dashes. */
const fileName = (sheet: Sheet, extension: string): string =>
  `handover-${
    sheet.job.title
      .normalize('NFKD')
      .replace(/[^\w]+/g, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'job'
  }.${extension}`;

export function handoverHandlers({
  db,
}: Context): Pick<Handlers, 'handoverPdf' | 'handoverCsv' | 'handoverJson'> {
  /** One snapshot of the job, so that every row speaks of the same moment. */
  const read = (jobId: string) =>
    db.transaction(
      async (tx) => {
        const job = await readJob(tx, jobId);
        const links = await readLinks(tx, { jobId });
        const kit = await readKit(tx);
        const details = [];
        for (const link of links) details.push(await readDetail(tx, link.id));
        return { job, details, cableNames: new Map(kit.cables.map((c) => [c.id, c.name])) };
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    );
  const send = (
    response: Response,
    sheet: Sheet,
    extension: string,
    type: string,
    body: string | Buffer,
  ): void => {
    response.type(type).attachment(fileName(sheet, extension)).send(body);
  };
  return {
    handoverPdf: async ({ params, crew, response }) => {
      const sheet = makeSheet(await read(params.jobId));
      send(
        response,
        sheet,
        'pdf',
        'application/pdf',
        await sheetPdf(sheet, { at: new Date(), by: crew.name }),
      );
    },
    handoverCsv: async ({ params, response }) => {
      const sheet = makeSheet(await read(params.jobId));
      send(response, sheet, 'csv', 'text/csv; charset=utf-8', sheetCsv(sheet));
    },
    handoverJson: async ({ params, response }) => {
      const source = await read(params.jobId);
      const file = {
        format: 'near-spoke/handover',
        formatVersion: 1,
        job: source.job,
        links: source.details,
      };
      send(response, makeSheet(source), 'json', 'application/json', JSON.stringify(file, null, 2));
    },
  };
}
