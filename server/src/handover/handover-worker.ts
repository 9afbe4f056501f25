import type { Job, LinkDetail } from '@near-spoke/contracts';
import { REPORT_PARTS, type CableType } from '@near-spoke/core';
import {
  failedOnce,
  fitTrace,
  linkRow,
  namesOf,
  photosIn,
  REPORT_WORDING,
  reportHtml,
  sealOfReport,
  sealable,
  sealJob,
  sealLink,
  type LinkSeal,
  type ReportData,
  type ReportLink,
} from '@near-spoke/core/report';
import { sql } from 'drizzle-orm';
import { once } from 'node:events';
import { constants, platform, setPriority } from 'node:os';
import { isMainThread } from 'node:worker_threads';
import { archivePieces } from '../archive/write.js';
import { inCrew } from '../db/crew.js';
import { openReader } from '../db/open.js';
import type { Sql } from '../db/open.js';
import { readJob } from '../jobs/store.js';
import { newestTraces } from '../traces/store.js';
import { readJobLeads, readLeadPhotos } from './job-leads.js';
import { readJobLooseEnds, readLoosePhotos } from './job-loose-ends.js';
import { readKit } from '../kit/store.js';
import { readDetails } from '../links/record.js';
import { readNotePhotos, type PhotoBytes } from '../links/notes.js';
import { readLinks } from '../links/store.js';
import { passingProblem } from '../problems.js';
import { csvHead, csvRow } from './csv.js';
import type { Made, ToHandOver } from './handover.js';
import { reportPdf } from './report-pdf.js';
import { readSignOffs } from './sign-offs.js';

/**
 * Whoever records something goes before whoever reads everything. Linux gives each thread a rank of its own; where a system
 * knows none, or refuses, the work is done all the same.
 */
function stepBack(): void {
  if (isMainThread || platform() !== 'linux') return;
  try {
    setPriority(constants.priority.PRIORITY_BELOW_NORMAL);
  } catch {
    // Nothing hangs on it.
  }
}
stepBack();

/** Links whose records are read at a time: enough to need few statements, few enough to hold in memory. */
const AT_A_TIME = 50;
const SLICE_BYTES = 256 * 1024;
/** A slow line may pause between two pieces for so long before the snapshot is given up. */
const PATIENCE_MS = 120_000;

/** Reads a job and makes one file of it, piece by piece; runs in a worker thread, one file at a time. */
export default function handOver(one: ToHandOver): Promise<Made> {
  return inCrew(one.ofCrew, () => make(one));
}

async function make({ url, jobId, kind, made, report, port }: ToHandOver): Promise<Made> {
  const taker = { left: false };
  port.on('close', () => (taker.left = true));
  try {
    // One snapshot of the job, so that every row speaks of the same moment.
    await openReader(url).transaction(
      async (tx) => {
        await tx.execute(sql.raw(`SET LOCAL idle_in_transaction_session_timeout = ${PATIENCE_MS}`));
        const job = await readJob(tx, jobId);
        for await (const piece of piecesOf(tx, job, { kind, made, ...(report ? { report } : {}), taker })) {
          if (taker.left) return;
          const bytes = new Uint8Array(Buffer.from(piece));
          port.postMessage(bytes, [bytes.buffer]);
          // The next is made when this one is on its way.
          await Promise.race([once(port, 'message'), once(port, 'close')]);
        }
      },
      { isolationLevel: 'repeatable read', accessMode: 'read only' },
    );
    return { problem: null };
  } catch (error) {
    const passing = passingProblem(error);
    if (!passing) throw error;
    return { problem: passing.problem };
  } finally {
    port.close();
  }
}

async function* piecesOf(
  tx: Sql,
  job: Job,
  { kind, made, report, taker }: Pick<ToHandOver, 'kind' | 'made' | 'report'> & { taker: Taker },
): AsyncGenerator<string | Buffer> {
  switch (kind) {
    case 'json':
      yield* jsonPieces(job, detailsOf(tx, job, taker));
      return;
    case 'csv': {
      const { cable } = namesOf(await readKit(tx));
      yield csvHead;
      for await (const some of detailsOf(tx, job, taker))
        yield some.map((detail) => csvRow(linkRow(detail, cable))).join('');
      return;
    }
    case 'seal':
    case 'seal-handed-over': {
      const links: LinkSeal[] = [];
      for await (const some of detailsOf(tx, job, taker))
        for (const detail of some)
          if (kind === 'seal' || detail.link.stage === 'handed-over') links.push(sealLink(sealable(detail)));
      yield JSON.stringify(sealJob(job, links));
      return;
    }
    case 'archive':
      yield* archivePieces(tx, job);
      return;
    case 'pdf':
    case 'html': {
      const data = await reportData(tx, job, { made, ...report, taker });
      if (taker.left) return;
      const photos = await photosOf(tx, data);
      if (kind === 'html') yield* slices(reportHtml(data, photos));
      else yield* reportPdf(data, photos);
    }
  }
}

/** A long text in pieces that a slow line takes one by one. */
function* slices(text: string): Generator<Buffer> {
  const bytes = Buffer.from(text);
  for (let at = 0; at < bytes.length; at += SLICE_BYTES) yield bytes.subarray(at, at + SLICE_BYTES);
}

/** All that a report of a job is made from. */
async function reportData(
  tx: Sql,
  { id, site, title, hub, scheme, units, stretches }: Job,
  {
    made,
    parts = REPORT_PARTS.map((part) => part.id),
    address = '',
    taker,
  }: Pick<ToHandOver, 'made'> & Partial<NonNullable<ToHandOver['report']>> & { taker: Taker },
): Promise<ReportData> {
  const job = { id, site, title, hub, scheme, units, stretches };
  const links: ReportLink[] = [];
  for await (const some of detailsOf(tx, job, taker))
    for (const { practice: _, ...detail } of some) links.push(detail);
  const kit = await readKit(tx);
  if (parts.includes('stories')) await addTraces(tx, links, kit.cables, taker);
  const cables = new Set(links.map(({ link }) => link.cableTypeId));
  const connectors = new Set(
    links.flatMap(({ link, terminations }) => [
      link.near.connectorId,
      link.far.connectorId,
      ...terminations.map((one) => one.connectorTypeId),
    ]),
  );
  return {
    format: 'near-spoke/report',
    formatVersion: 1,
    wording: REPORT_WORDING,
    made,
    address,
    parts,
    job,
    links,
    cables: kit.cables.filter((cable) => cables.has(cable.id)),
    connectors: kit.connectors.filter((connector) => connectors.has(connector.id)),
    signOffs: await readSignOffs(tx, id),
    adapters: parts.includes('adapters') ? await readJobLeads(tx, id) : [],
    looseEnds: parts.includes('terminations') ? await readJobLooseEnds(tx, id) : [],
    seal: sealOfReport({ job, links }),
  };
}

/** Reading a trace as a whole takes about a second: so many are, the newest first. */
const MOST_TRACES = 12;

/** Gives the links that failed their traces: of each end and pair the newest, read as a whole. */
async function addTraces(
  tx: Sql,
  links: ReportLink[],
  cables: readonly CableType[],
  taker: Taker,
): Promise<void> {
  const told = links.filter(failedOnce);
  for (const { linkId, ...kept } of await newestTraces(
    tx,
    told.map(({ link }) => link.id),
    MOST_TRACES,
  )) {
    const detail = told.find(({ link }) => link.id === linkId);
    if (!detail || taker.left) continue;
    const cable = cables.find(({ id }) => id === detail.link.cableTypeId) ?? null;
    detail.traces = [...(detail.traces ?? []), fitTrace(kept, cable, detail.link.lengthM)];
  }
}

/** The bytes of the photos that a report shows. */
async function photosOf(tx: Sql, data: ReportData): Promise<PhotoBytes> {
  const wanted = new Set(photosIn(data).map(({ sha256 }) => sha256));
  if (wanted.size === 0) return new Map();
  const noted = data.links.filter(({ notes = [] }) => notes.some(({ photo }) => photo !== null));
  const ofLinks = await readNotePhotos(
    tx,
    noted.map(({ link }) => link.id),
    wanted,
  );
  const ofLeads = await readLeadPhotos(
    tx,
    (data.adapters ?? []).map(({ id }) => id),
    wanted,
  );
  const ofLooseEnds = await readLoosePhotos(tx, data.job.id, wanted);
  return new Map([...ofLinks, ...ofLeads, ...ofLooseEnds]);
}

/** Who takes the pieces, and whether they still do. */
interface Taker {
  left: boolean;
}

async function* detailsOf(
  tx: Sql,
  job: Pick<Job, 'id' | 'scheme' | 'units'>,
  taker: Taker,
): AsyncGenerator<LinkDetail[]> {
  const links = await readLinks(tx, { jobId: job.id });
  for (let n = 0; n < links.length && !taker.left; n += AT_A_TIME)
    yield await readDetails(tx, links.slice(n, n + AT_A_TIME), job);
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
