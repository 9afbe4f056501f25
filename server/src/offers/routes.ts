import { crewPrices, type CrewPrices } from '@near-spoke/contracts';
import { offerOf } from '@near-spoke/core';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readSaid, say, type Said } from '../crew/said.js';
import { fileNameOf } from '../handover/file-name.js';
import { readJob } from '../jobs/store.js';
import { countSpoils } from '../kit/store.js';
import { printPdf } from '../print/printer.js';
import { Refusal } from '../problems.js';
import { offerDocument } from './page.js';

/** What the crew pays for what it buys. */
const PRICES: Said<CrewPrices> = {
  name: 'prices',
  shape: crewPrices,
  nobodySaid: { list: null, version: 0 },
};
/** So many of what has no price are named; the rest are counted. */
const NAMED = 8;

/** What things cost, and what a job is offered for. */
export function offerHandlers({ db }: Context): Pick<Handlers, 'readPrices' | 'keepPrices' | 'printOffer'> {
  return {
    readPrices: () => readSaid(db, PRICES),
    keepPrices: ({ body }) => db.transaction((tx) => say(tx, PRICES, body)),
    printOffer: async ({ params, body, crew, response }) => {
      const job = await readJob(db, params.jobId);
      const { list } = await readSaid(db, PRICES);
      const { currency } = body.terms;
      if (list && list.currency !== currency)
        throw new Refusal(
          409,
          'Another currency',
          `The price list is in ${list.currency}, and the offer would be in ${currency}. Nothing is changed from one to the other here: keep a list in ${currency}, or offer in ${list.currency}.`,
        );
      const counts = await countSpoils(db);
      const offer = offerOf(body.material, body.work, list ?? { prices: [] }, body.terms, (id) => {
        const own = counts.filter(({ connectorTypeId }) => connectorTypeId === id);
        return {
          spoiled: own.reduce((sum, { spoiled }) => sum + spoiled, 0),
          good: own.reduce((sum, { good }) => sum + good, 0),
        };
      });
      if (offer.unpriced.length > 0) throw unpriced(offer.unpriced);
      const pdf = await printPdf(
        offerDocument(offer, {
          job,
          by: crew.name,
          until: body.until,
          note: body.note,
          dated: list?.dated ?? null,
          terms: body.terms,
        }),
      );
      response
        .type('application/pdf')
        .attachment(fileNameOf('offer', job.title, 'pdf'))
        .send(pdf);
    },
  };
}

function unpriced(items: readonly string[]): Refusal {
  const more = items.length - NAMED;
  const named = items.slice(0, NAMED).join('; ');
  return new Refusal(
    409,
    'Not all has a price',
    `No price is known of: ${named}${more > 0 ? `; and ${more} more` : ''}. Put them on the price list, or leave them out.`,
  );
}
