import { randomBytes } from 'node:crypto';
import type { TakenReading } from '@near-spoke/contracts';
import { diagnose, expectTold, type InstrumentClass, type LinkEnd, type Reading } from '@near-spoke/core';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { readLink } from '../links/store.js';
import { Refusal } from '../problems.js';
import { InstrumentError } from './client.js';
import { rememberTaken } from './taken.js';

const KNOWN_GOOD_CORD = expectTold({
  cable: 'cord-26',
  scheme: 'T568B',
  lengthM: 2,
  near: 'plug-closed',
  far: 'plug-closed',
});

/** A record begins so many launches before its own. */
const BEFORE_LAUNCH = 3;

type Ids =
  | 'listInstruments'
  | 'takeReading'
  | 'benchScope'
  | 'takeTrace'
  | 'checkCord'
  | 'beginPractice'
  | 'readPractice'
  | 'revealPractice';

/** Reads an instrument on a link, and remembers what it gave; a simulated one only where that is allowed. */
export async function takeOnLink(
  { db, instruments, simulation }: Pick<Context, 'db' | 'instruments' | 'simulation'>,
  linkId: string,
  { instrument, end, plan }: { instrument: InstrumentClass; end: LinkEnd; plan?: Reading | undefined },
): Promise<TakenReading> {
  const reading = await orRefusal(() => instruments.read(instrument, end, linkId, plan));
  if (reading.simulated && !simulation)
    throw new Refusal(
      422,
      'No reading',
      'Only a simulated instrument is within reach, and it knows nothing of this link. Key the reading in.',
    );
  return rememberTaken(db, linkId, reading);
}

export function instrumentHandlers(context: Context): Pick<Handlers, Ids> {
  const { db, instruments, scope, simulation } = context;
  return {
    listInstruments: async () =>
      (await instruments.identify()).filter(({ simulated }) => simulation || !simulated),
    takeReading: async ({ body }) => {
      await readLink(db, body.linkId);
      return takeOnLink(context, body.linkId, body);
    },
    benchScope: () => scope.identify(),
    takeTrace: ({ body: { lineId, pair, ...how } }) =>
      orRefusal(() =>
        scope.take({
          ...how,
          line: lineId,
          pair: pair ?? '',
          launchS: BEFORE_LAUNCH * (how.riseS + how.widthS),
        }),
      ),
    checkCord: async ({ body }) => {
      const taken = await orRefusal(() => instruments.read(body.instrument, 'near', 'cord'));
      const { result, headline } = diagnose(KNOWN_GOOD_CORD, [taken.reading]);
      return { instrumentName: taken.instrumentName, right: result === 'pass', headline };
    },
    beginPractice: async ({ body }) => {
      const practiceId = `00000000-0000-4000-9000-${randomBytes(6).toString('hex')}`;
      await orRefusal(() => instruments.breakForPractice(practiceId, body));
      return { practiceId };
    },
    readPractice: ({ params, body }) =>
      orRefusal(() => instruments.read(body.instrument, body.end, params.practiceId)),
    revealPractice: async ({ params }) => ({
      faults: await orRefusal(() => instruments.reveal(params.practiceId)),
    }),
  };
}

async function orRefusal<T>(ask: () => Promise<T>): Promise<T> {
  try {
    return await ask();
  } catch (error) {
    if (error instanceof InstrumentError)
      throw new Refusal(error.kind === 'refused' ? 422 : 502, 'No reading', error.message);
    throw error;
  }
}
