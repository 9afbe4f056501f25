import type { CableType } from '../cabling/cable-types.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { triesOf } from '../materials/offer.js';
import { enoughNineInTen, paceOf, UNKNOWN_PACE, type Pace, type TimesOfEnds } from './pace.js';
import type { DayTask, LinkToDo } from './tasks.js';

/** What is known of a crew's work: how long its ends took, and how many connectors were spoiled. */
export interface CrewRecord {
  times: readonly TimesOfEnds[];
  spoilt: (connectorId: string) => { spoiled: number; good: number };
}

/** A link as its plan and its record have it. */
export interface OpenWay {
  label: string;
  hub: string;
  room: string;
  cable: Pick<CableType, 'family'> | undefined;
  near: { connector: Pick<ConnectorType, 'id' | 'name' | 'minutes'> | undefined; done: boolean };
  far: { connector: Pick<ConnectorType, 'id' | 'name' | 'minutes'> | undefined; done: boolean };
  pulled: boolean;
  proved: boolean;
}

/** An end of which nobody knows how long it takes, minutes (typical). */
const SOME_END_MINUTES = 5;

/** What of a link is to do, with the minutes that its ends take this crew: its pace with them, and the ends it makes twice. */
export function linkToDo({ cable, near, far, ...way }: OpenWay, { times, spoilt }: CrewRecord): LinkToDo {
  const skill = cable?.family === 'coax' ? ('coax' as const) : ('pairs' as const);
  const end = ({ connector, done }: OpenWay['near']): LinkToDo['near'] => ({
    done,
    skill,
    minutes: connector
      ? connector.minutes * paceOf(times, connector.name).factor * triesOf(spoilt(connector.id))
      : SOME_END_MINUTES,
  });
  return { ...way, near: end(near), far: end(far) };
}

/** By how much all minutes of these tasks are multiplied so that they are enough nine times in ten. */
export function carefully(tasks: readonly DayTask[], times: readonly TimesOfEnds[]): number {
  const ends: Pace = paceOf(times);
  const shares = (['pull', 'ends', 'test'] as const).map((part) => {
    const own = tasks.filter(({ kind }) =>
      kind === 'pull' || kind === 'test' ? kind === part : part === 'ends',
    );
    const items = own.flatMap((task) => task.items);
    return {
      minutes: items.reduce((sum, { minutes }) => sum + minutes, 0),
      sd: part === 'ends' ? ends.sd : UNKNOWN_PACE.sd,
      pieces: items.length,
    };
  });
  return enoughNineInTen(shares);
}

/** Tasks whose every minute takes so many times as long. */
export const stretched = (tasks: readonly DayTask[], times: number): DayTask[] =>
  tasks.map((task) => ({
    ...task,
    items: task.items.map(({ label, minutes }) => ({ label, minutes: minutes * times })),
  }));
