import type { HandoversGiven } from '@near-spoke/contracts';
import { REPORT_PARTS, reportParts, type ReportPartId } from '@near-spoke/core';
import type { Request, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { crewOfShare, inCrew } from '../db/crew.js';
import { readJob } from '../jobs/store.js';
import { readDetail, recordHandover, recordReopening } from '../links/record.js';
import { readLinks } from '../links/store.js';
import { REPORT_POLICY } from '../policy.js';
import { Refusal } from '../problems.js';
import { addressOf } from './address.js';
import { fileNameOf } from './file-name.js';
import { handOver, sealNow, type HandoverFile, type ToHandOver } from './handover.js';
import { addJobLead, listJobLeads, removeJobLead } from './job-leads.js';
import {
  hashOf,
  keepShareLink,
  notOpen,
  openShared,
  readShareLinks,
  revokeShareLink,
} from './share-links.js';
import { keepSignOff, readSignOffs, readSignOffSeal } from './sign-offs.js';

type FileKind = Exclude<HandoverFile, 'seal' | 'seal-handed-over'>;

const TYPES: Readonly<Record<FileKind, string>> = {
  pdf: 'application/pdf',
  html: 'text/html; charset=utf-8',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
  archive: 'application/zip',
};
const NAMES: Readonly<Record<FileKind, string>> = {
  pdf: 'report',
  html: 'report',
  csv: 'handover',
  json: 'handover',
  archive: 'job',
};

type Ids =
  | 'handOverMany'
  | 'reopenLink'
  | 'reportPdf'
  | 'reportHtml'
  | 'handoverCsv'
  | 'handoverJson'
  | 'jobArchive'
  | 'jobSeal'
  | 'listSignOffs'
  | 'addSignOff'
  | 'signOffSeal'
  | 'listJobLeads'
  | 'addJobLead'
  | 'removeJobLead'
  | 'listShareLinks'
  | 'addShareLink'
  | 'revokeShareLink'
  | 'sharedReport'
  | 'sharedPdf';

interface FileCall {
  params: { jobId: string };
  crew: { name: string };
  response: Response;
}

export function handoverHandlers({ db, databaseUrl }: Context): Pick<Handlers, Ids> {
  /** Sends a file as it is made; who leaves ends the work on it. */
  const send = async (
    kind: FileKind,
    { params, crew, response }: FileCall,
    report?: ToHandOver['report'],
    shown = false,
  ): Promise<void> => {
    const job = await readJob(db, params.jobId);
    const made = { at: new Date().toISOString(), by: crew.name };
    const pieces = handOver({ url: databaseUrl, jobId: job.id, kind, made, ...(report ? { report } : {}) });
    // What is refused is refused before the answer begins.
    const first = await pieces.next();
    response.type(TYPES[kind]);
    if (kind === 'html') response.set('Content-Security-Policy', REPORT_POLICY);
    if (!shown) response.attachment(fileNameOf(NAMES[kind], job.title, kind === 'archive' ? 'zip' : kind));
    try {
      await pipeline(Readable.from(after(first, pieces)), flushing(response), response);
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
    }
  };
  const partsOf = (text: string): ReportPartId[] => reportParts(text.split(',')) ?? [];
  const report = (kind: 'pdf' | 'html', call: FileCall & { params: { parts: string }; request: Request }) =>
    send(kind, call, { parts: partsOf(call.params.parts), address: addressOf(call.request) });
  /** A report for whoever has its address; shown, where a browser can. */
  const shared = async (
    kind: 'pdf' | 'html',
    { params, request, response }: { params: { token: string }; request: Request; response: Response },
  ): Promise<void> => {
    const ofCrew = await crewOfShare(db, hashOf(params.token));
    if (ofCrew === null) throw notOpen();
    await inCrew(ofCrew, () => showShared(kind, { params, request, response }));
  };
  const showShared: typeof shared = async (kind, { params, request, response }) => {
    const { jobId, forWhom } = await openShared(db, params.token);
    const crew = { name: `the application, for ${forWhom}` };
    const wanted = { parts: REPORT_PARTS.map(({ id }) => id), address: addressOf(request) };
    await send(kind, { params: { jobId }, crew, response }, wanted, kind === 'html');
  };
  const seal = async (jobId: string, kind: 'seal' | 'seal-handed-over') => {
    await readJob(db, jobId);
    return sealNow({ url: databaseUrl, jobId, kind });
  };

  return {
    reportPdf: (call) => report('pdf', call),
    reportHtml: (call) => report('html', call),
    handoverCsv: (call) => send('csv', call),
    handoverJson: (call) => send('json', call),
    jobArchive: (call) => send('archive', call),

    handOverMany: async ({ params: { jobId }, body, crew }): Promise<HandoversGiven> => {
      const own = new Map((await readLinks(db, { jobId })).map((link) => [link.id, link]));
      const given: string[] = [];
      const refused: HandoversGiven['refused'] = [];
      for (const { id, linkId } of body.handovers) {
        const label = own.get(linkId)?.label;
        if (label === undefined) {
          refused.push({ linkId, label: '', why: 'This job has no such link.' });
          continue;
        }
        // Each in a transaction of its own: nobody's work on one link waits for all of them.
        const why = await db
          .transaction((tx) => recordHandover(tx, linkId, id, { crewId: crew.id }))
          .then(() => null)
          .catch((error: unknown) => {
            if (error instanceof Refusal && error.problem.status === 422) return error.message;
            throw error;
          });
        if (why === null) given.push(linkId);
        else refused.push({ linkId, label, why });
      }
      const asked = new Set(body.handovers.map(({ linkId }) => linkId));
      const links = (await readLinks(db, { jobId })).filter(({ id }) => asked.has(id));
      return { given, refused, links };
    },

    reopenLink: ({ params: { linkId }, body, crew }) =>
      db.transaction(async (tx) => {
        await recordReopening(tx, linkId, body, { crewId: crew.id });
        return readDetail(tx, linkId);
      }),

    jobSeal: ({ params }) => seal(params.jobId, 'seal'),

    listSignOffs: async ({ params }) => {
      await readJob(db, params.jobId);
      return readSignOffs(db, params.jobId);
    },

    addSignOff: async ({ params: { jobId }, body, crew }) => {
      const now = await seal(jobId, 'seal-handed-over');
      return db.transaction((tx) => keepSignOff(tx, { jobId, crewId: crew.id, seal: now, sent: body }));
    },

    listJobLeads: async ({ params }) => {
      await readJob(db, params.jobId);
      return listJobLeads(db, params.jobId);
    },
    addJobLead: async ({ params: { jobId }, body, crew }) => {
      await readJob(db, jobId);
      return db.transaction(async (tx) => {
        await addJobLead(tx, { jobId, ...body, crewId: crew.id });
        return listJobLeads(tx, jobId);
      });
    },
    removeJobLead: ({ params, crew }) =>
      db.transaction(async (tx) => {
        await removeJobLead(tx, { ...params, crewId: crew.id });
        return listJobLeads(tx, params.jobId);
      }),
    listShareLinks: async ({ params }) => {
      await readJob(db, params.jobId);
      return readShareLinks(db, params.jobId);
    },
    addShareLink: async ({ params: { jobId }, body, crew }) => {
      await readJob(db, jobId);
      return db.transaction((tx) => keepShareLink(tx, { jobId, crewId: crew.id, sent: body }));
    },
    revokeShareLink: ({ params, crew }) =>
      db.transaction((tx) => revokeShareLink(tx, { ...params, crewId: crew.id })),
    sharedReport: (call) => shared('html', call),
    sharedPdf: (call) => shared('pdf', call),

    signOffSeal: ({ params }) => readSignOffSeal(db, params.jobId, params.signOffId),
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
