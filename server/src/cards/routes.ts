import { buildCard, type SchemeId } from '@near-spoke/core';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readJob } from '../jobs/store.js';
import { readKit, readSheet } from '../kit/store.js';
import { readLink, readRecord } from '../links/store.js';
import { notFound } from '../problems.js';
import { cardPdf } from './page.js';

/** Which end of which link, by which sheets. */
interface Wanted {
  linkId: string;
  side: 'near' | 'far';
  connectorId: string;
  connectorVersion: number;
  cableVersion: number;
  /** What the foot of the head says. */
  made: string;
}

export function cardHandlers({ db }: Context): Pick<Handlers, 'cardPdf' | 'attemptCardPdf'> {
  const print = async (wanted: Wanted): Promise<Buffer> => {
    const link = await readLink(db, wanted.linkId);
    const job = await readJob(db, link.jobId);
    const cable = await readSheet(db, 'cable', link.cableTypeId, wanted.cableVersion);
    const connector = await readSheet(db, 'connector', wanted.connectorId, wanted.connectorVersion);
    const { tools } = await readKit(db);
    const card = buildCard({ cable, connector, scheme: job.scheme as SchemeId, units: job.units, tools });
    const place =
      wanted.side === 'near'
        ? `Near end, ${link.near.hub} ${link.near.panel} port ${link.near.port}`
        : `Far end, ${link.far.room}, ${link.far.outlet}`;
    return cardPdf(card, connector, { link: link.label, place, made: wanted.made }, job.units);
  };
  return {
    cardPdf: async ({ params, response }) => {
      const link = await readLink(db, params.linkId);
      const { versions } = await readKit(db);
      const connectorId = link[params.side].connectorId;
      const connectorVersion = versions.connector[connectorId] ?? 1;
      const cableVersion = versions.cable[link.cableTypeId] ?? 1;
      const made = `Made ${new Date().toISOString().slice(0, 10)} from ${connectorId} version ${connectorVersion}, ${link.cableTypeId} version ${cableVersion}.`;
      const body = await print({ ...params, connectorId, connectorVersion, cableVersion, made });
      response.type('application/pdf').attachment(`card-${params.side}.pdf`).send(body);
    },
    attemptCardPdf: async ({ params, response }) => {
      const { terminations } = await readRecord(db, params.linkId);
      const attempt = terminations.find((t) => t.id === params.attemptId);
      if (!attempt) throw notFound('record');
      const { connectorTypeId: connectorId, connectorVersion, cableVersion, side } = attempt;
      const made = `As on ${attempt.at.slice(0, 10)}, when ${attempt.by} worked by it: ${connectorId} version ${connectorVersion}, cable version ${cableVersion}.`;
      const body = await print({
        linkId: params.linkId,
        side,
        connectorId,
        connectorVersion,
        cableVersion,
        made,
      });
      response
        .type('application/pdf')
        .attachment(`card-${side}-${attempt.at.slice(0, 10)}.pdf`)
        .send(body);
    },
  };
}
