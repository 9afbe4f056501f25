import type { CableWork, LinkDetail } from '@near-spoke/contracts';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import type { Sql } from '../db/open.js';
import { genericAlike, knownAsTheyAre } from '../instruments/alike.js';
import { takeOnLink } from '../instruments/routes.js';
import { sourceOf } from '../instruments/taken.js';
import { readKit } from '../kit/store.js';
import { readJob } from '../jobs/store.js';
import { readNotePhoto, recordNote } from './notes.js';
import { LinkTurns } from './in-turn.js';
import { changeLink } from './plan.js';
import { isRecorded, recordTest } from './readings.js';
import { readDetail, recordCableWork, recordHandover, recordTermination } from './record.js';
import { readLink } from './store.js';
import { endBecomes } from '../together/store.js';

/** So many add to records at once: most of the connections, and not all. */
const AT_ONCE = 4;

type Ids =
  | 'getLink'
  | 'changeLink'
  | 'addTermination'
  | 'addCableWork'
  | 'addTest'
  | 'takeTest'
  | 'handOver'
  | 'addNote'
  | 'notePhoto';

export function linkHandlers(context: Context): Pick<Handlers, Ids> {
  const { db } = context;
  const turns = new LinkTurns(AT_ONCE);
  const inTurn = <T>(linkId: string, work: (tx: Sql) => Promise<T>): Promise<T> =>
    turns.do(linkId, () => db.transaction(work));
  /** Adds to a link's record in one transaction and answers the whole of it. */
  const record = (linkId: string, add: (tx: Sql) => Promise<void>): Promise<LinkDetail> =>
    inTurn(linkId, async (tx) => {
      await add(tx);
      return readDetail(tx, linkId);
    });

  /** Work on a real cable changes it; on a simulated one the stand-in has to be told. */
  const tellStandIn = async (linkId: string, place: 'near' | 'far' | CableWork['kind']): Promise<void> => {
    try {
      const planned = await readLink(db, linkId);
      const { scheme } = await readJob(db, planned.jobId);
      const types = knownAsTheyAre(planned) ?? genericAlike(await readKit(db), planned);
      if (types) await context.instruments.work(linkId, place, planned, scheme, types);
    } catch (error) {
      // What was done is on record; the simulated cable alone does not know of it.
      context.log.warn({ err: error, linkId }, 'the instrument stand-in was not told of work');
    }
  };

  return {
    getLink: ({ params }) => readDetail(db, params.linkId),
    changeLink: ({ params, body, crew }) =>
      inTurn(params.linkId, (tx) => changeLink(tx, params.linkId, body, crew.id)),
    addTermination: async ({ params, body, crew }) => {
      const detail = await record(params.linkId, (tx) =>
        recordTermination(tx, params.linkId, body, { crewId: crew.id }),
      );
      if (body.outcome === 'good' && body.corrects === null) await tellStandIn(params.linkId, body.side);
      return detail;
    },
    addCableWork: async ({ params, body, crew }) => {
      const detail = await record(params.linkId, (tx) =>
        recordCableWork(tx, params.linkId, body, { crewId: crew.id }),
      );
      await tellStandIn(params.linkId, body.kind);
      return detail;
    },
    addTest: ({ params: { linkId }, body: { takenId, ...test }, crew }) => {
      return inTurn(linkId, async (tx) => {
        const source = () => sourceOf(tx, linkId, takenId, test.reading);
        const detail = await recordTest(tx, { linkId, test, source }, { crewId: crew.id, name: crew.name });
        await endBecomes(tx, [{ linkId, id: test.id }]);
        return detail;
      });
    },
    takeTest: async ({ params: { linkId }, body: { instrument, end, plan, ...test }, crew }) => {
      await readLink(db, linkId);
      // A repeat of what is recorded takes nothing anew.
      const { unplugged: _, ...sent } = test;
      if (await isRecorded(db, linkId, sent)) return readDetail(db, linkId);
      const { instrumentName, simulated, reading } = await takeOnLink(context, linkId, {
        instrument,
        end,
        plan,
      });
      const taken = {
        linkId,
        test: { ...test, instrumentName, reading },
        source: { source: 'instrument' as const, simulated, instrumentName },
      };
      return inTurn(linkId, (tx) => recordTest(tx, taken, { crewId: crew.id, name: crew.name }));
    },
    addNote: ({ params: { linkId }, body, crew }) =>
      record(linkId, (tx) => recordNote(tx, linkId, body, { crewId: crew.id })),
    notePhoto: async ({ params, response }) => {
      const jpeg = await readNotePhoto(db, params.linkId, params.noteId);
      // A record is never rewritten, so neither is its photo.
      response.type('image/jpeg').set('Cache-Control', 'private, max-age=31536000, immutable').send(jpeg);
    },
    handOver: ({ params, body, crew }) =>
      record(params.linkId, (tx) => recordHandover(tx, params.linkId, body.id, { crewId: crew.id })),
  };
}
