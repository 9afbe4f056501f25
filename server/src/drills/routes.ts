import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { keepDrillAnswer, readCrewPractice, readOwnPractice } from './store.js';

export function drillHandlers({
  db,
}: Context): Pick<Handlers, 'ownPractice' | 'answerDrill' | 'crewPractice'> {
  return {
    ownPractice: ({ crew }) => readOwnPractice(db, crew.id),
    answerDrill: ({ body, crew }) =>
      db.transaction(async (tx) => {
        await keepDrillAnswer(tx, body, crew.id);
        return readOwnPractice(tx, crew.id);
      }),
    crewPractice: () => readCrewPractice(db),
  };
}
