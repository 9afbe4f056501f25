import type { labelOrder } from '@near-spoke/contracts';
import { labelText, type LinkEnd } from '@near-spoke/core';
import { placesOf, printLabels, testPage, type LabelContent, labelAddress } from '@near-spoke/core/labels';
import type * as z from 'zod';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import { csvOf } from '../handover/csv.js';
import { fileNameOf } from '../handover/file-name.js';
import { addressOf } from '../handover/address.js';
import { readJob } from '../jobs/store.js';
import { readKit } from '../kit/store.js';
import { readLinks } from '../links/store.js';
import { badField } from '../problems.js';
import { printPdf } from '../print/printer.js';

type Order = z.output<typeof labelOrder>;

/** A label to be printed, and what it is of. */
interface Ordered extends LabelContent {
  label: string;
  end: LinkEnd;
}

/** PDF points in a millimetre. */
const PT = 72 / 25.4;

/** The labels that are ordered, in the order of the links: of each link its ends in turn. */
async function ordered(db: Sql, jobId: string, order: Order, address: string): Promise<Ordered[]> {
  const job = await readJob(db, jobId);
  const kit = await readKit(db);
  const names = new Map(kit.cables.map(({ id, name }) => [id, name]));
  const wanted = new Set(order.linkIds);
  const links = (await readLinks(db, { jobId })).filter(({ id }) => wanted.has(id));
  const stranger = order.linkIds.findIndex((id) => !links.some((link) => link.id === id));
  if (stranger >= 0) throw badField(`linkIds[${stranger}]`, 'This job has no such link.', 404);
  const words = { site: job.site, units: job.units, cableName: (id: string) => names.get(id) ?? id };
  return links.flatMap((link) =>
    order.ends.map((end) => ({
      label: link.label,
      end,
      lines: labelText(link, end, order.lines, words),
      qr: order.qr ? labelAddress(address, link.id) : null,
    })),
  );
}

/** Labels at true size, as PDF and as a table. */
export function labelHandlers({ db }: Context): Pick<Handlers, 'printLabels' | 'labelTable'> {
  const refuseSkip = ({ skip, stock }: Order): void => {
    const places = placesOf(stock).length;
    if (skip > 0 && skip >= places)
      throw badField('skip', `A sheet has ${places} places: skip fewer of them.`);
  };
  return {
    printLabels: async ({ params, body, request, response }) => {
      refuseSkip(body);
      const job = await readJob(db, params.jobId);
      const labels = await ordered(db, job.id, body, addressOf(request));
      const { stock, skip, fit, edges } = body;
      const pages = body.testPage
        ? [testPage(stock, fit, 'Mono')]
        : printLabels(stock, labels, { skip, fit, edges, font: 'Mono' }).pages;
      const [first] = pages;
      const pdf = await printPdf({
        // Every page is as large as the paper, and printed as it is: no margins, no scaling to fit.
        pageSize: { width: (first?.widthMm ?? 1) * PT, height: (first?.heightMm ?? 1) * PT },
        pageMargins: 0,
        info: { title: `Labels, ${job.title}` },
        defaultStyle: { font: 'Mono' },
        content: pages.map(({ svg, widthMm, heightMm }, at) => ({
          svg,
          width: widthMm * PT,
          height: heightMm * PT,
          absolutePosition: { x: 0, y: 0 },
          ...(at === 0 ? {} : { pageBreak: 'before' }),
        })),
      });
      response
        .type('application/pdf')
        .attachment(fileNameOf('labels', job.title, 'pdf'))
        .send(pdf);
    },
    labelTable: async ({ params, body, request, response }) => {
      const job = await readJob(db, params.jobId);
      const labels = await ordered(db, job.id, body, addressOf(request));
      const most = Math.max(1, ...labels.map(({ lines }) => lines.length));
      const columns = ['link', 'end', ...Array.from({ length: most }, (_, at) => `line${at + 1}`), 'address'];
      const rows = labels.map(({ label, end, lines, qr }) => [
        label,
        end,
        ...Array.from({ length: most }, (_, at) => lines[at] ?? ''),
        qr ?? '',
      ]);
      response
        .type('text/csv; charset=utf-8')
        .attachment(fileNameOf('labels', job.title, 'csv'))
        .send(csvOf(columns, rows));
    },
  };
}
