import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readLink } from '../links/store.js';
import { Refusal } from '../problems.js';
import { InstrumentError } from './client.js';

export function instrumentHandlers({
  db,
  instruments,
}: Context): Pick<Handlers, 'listInstruments' | 'takeReading'> {
  return {
    listInstruments: () => instruments.identify(),
    takeReading: async ({ body }) => {
      await readLink(db, body.linkId);
      try {
        return await instruments.read(body.instrument, body.end, body.linkId);
      } catch (error) {
        if (error instanceof InstrumentError)
          throw new Refusal(error.kind === 'refused' ? 422 : 502, 'No reading', error.message);
        throw error;
      }
    },
  };
}
