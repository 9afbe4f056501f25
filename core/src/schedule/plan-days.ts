import { seededRandom } from '../quantities/random.js';
import { dayAfter, DAY_MINUTES, type PlaceHours, type PersonAtWork } from './calendar.js';
import type { DayTask, Skill, TaskKind } from './tasks.js';
import { TeamTime, type Standing, type Stretch } from './team-time.js';

/** People at a place for a while, and what they do there. */
export interface Visit {
  task: string;
  kind: TaskKind;
  skill: Skill;
  places: readonly string[];
  people: readonly string[];
  day: string;
  /** Minutes of the day. */
  from: number;
  to: number;
  labels: readonly string[];
}

/** A job's work laid over days. */
export interface DayPlan {
  /** In the order they begin. */
  visits: Visit[];
  /** When the last is over; null where nothing is left to do. */
  ends: { day: string; minute: number } | null;
  /** No plan ends before this day: hours there are, and what has to come after what. */
  atLeast: string | null;
  /** Days on which somebody comes, counted for each. */
  personDays: number;
  /** Order in which tasks were given out: the same work with other minutes can be laid out alike. */
  order: string[];
}

/** Work that cannot be laid over days, in words. */
export class BadDays extends Error {}

export interface DaysAsked {
  /** The first day, as 2026-11-30. */
  begins: string;
  workers: readonly PersonAtWork[];
  access: readonly PlaceHours[];
  walkMinutes: number;
}

const SEED = 7;
/** So many tasks are looked at for whose can begin first. */
const TURN_OF = 8;
/** Orders that are tried: so many steps of work altogether, within bounds. */
const [TRIES_TIMES_TASKS, LEAST_TRIES, MOST_TRIES] = [40_000, 60, 800];

/**
 * Lays work over days and people: earlier work first, people with the skill where they and the places are there, walks counted.
 * Orders of tasks are changed one by one and kept where the plan ends on an earlier day, needs fewer days of people, or fewer hours
 * of theirs. It is not proved the best; the bound says how far it can be from it.
 *
 * @param goOn asked now and then; false ends the search with what there is
 * @throws BadDays where nobody can do a task, or at no time
 */
export function planDays(
  tasks: readonly DayTask[],
  asked: DaysAsked,
  goOn: (tried: number, of: number) => boolean = () => true,
): DayPlan {
  const time = timeOf(asked);
  if (tasks.length === 0) return { visits: [], ends: null, atLeast: null, personDays: 0, order: [] };
  const teams = new Map(tasks.map((task) => [task.id, teamsFor(task, asked.workers)]));
  const earliest = earliestEnds(tasks, time, teams);
  const layOut = (order: readonly DayTask[]): Laid => laidOut(order, time, teams);
  const random = seededRandom(SEED);
  let best = bestOf(firstOrders(tasks, earliest).map(layOut));
  const tries = Math.max(LEAST_TRIES, Math.min(MOST_TRIES, Math.round(TRIES_TIMES_TASKS / tasks.length)));
  for (let tried = 0; tried < tries && tasks.length > 1; tried++) {
    if (tried % 20 === 0 && !goOn(tried, tries)) break;
    const order = [...best.order];
    const [moved] = order.splice(Math.floor(random() * order.length), 1);
    order.splice(Math.floor(random() * (order.length + 1)), 0, moved as DayTask);
    const laid = layOut(order);
    if (compare(laid, best) <= 0) best = laid;
  }
  const leastDay = Math.max(
    ...[...earliest.values()].map((end) => dayOf(end)),
    capacityDay(tasks, time, asked.workers),
  );
  return told(best, asked, leastDay);
}

/** The same work in an order that was found, with other minutes. */
export function daysInOrder(tasks: readonly DayTask[], order: readonly string[], asked: DaysAsked): DayPlan {
  const rank = new Map(order.map((id, n) => [id, n]));
  const sorted = [...tasks].sort((a, b) => (rank.get(a.id) ?? Infinity) - (rank.get(b.id) ?? Infinity));
  const teams = new Map(tasks.map((task) => [task.id, teamsFor(task, asked.workers)]));
  return told(laidOut(sorted, timeOf(asked), teams), asked, 0);
}

const timeOf = ({ begins, workers, access, walkMinutes }: DaysAsked): TeamTime =>
  new TeamTime(begins, workers, access, walkMinutes);

/** Minutes just past the end of a day belong to it. */
const dayOf = (minute: number): number => Math.floor((minute - 1e-6) / DAY_MINUTES);

type Teams = ReadonlyMap<string, readonly (readonly number[])[]>;

/** Who could do a task: so many together as it wants, or as there are. */
function teamsFor({ skill, hands, items }: DayTask, workers: readonly PersonAtWork[]): number[][] {
  const able = workers.flatMap(({ skills }, n) => (skills.includes(skill) ? [n] : []));
  if (able.length === 0) {
    const [first] = items;
    throw new BadDays(`Nobody here does what ${first?.label ?? 'a link'} needs: give somebody the skill.`);
  }
  if (hands < 2 || able.length < 2) return able.map((n) => [n]);
  return able.flatMap((a, i) => able.slice(i + 1).map((b) => [a, b]));
}

interface Laid {
  order: readonly DayTask[];
  done: { task: DayTask; team: readonly number[]; stretches: Stretch[] }[];
  end: number;
  personDays: number;
  /** From the first thing that somebody does on a day to the last, over days and people, minutes. */
  present: number;
}

/**
 * Gives tasks out: of those whose turn it is, the one that can begin the earliest, to the team that is done with it the earliest.
 * Nobody waits for the first in the order while the next could be done.
 */
function laidOut(order: readonly DayTask[], time: TeamTime, teams: Teams): Laid {
  const standings: Standing[] = time.workers.map(() => ({ free: 0, at: null }));
  const ended = new Map<string, number>();
  const known = new Set(order.map(({ id }) => id));
  const waiting = [...order];
  const done: Laid['done'] = [];
  while (waiting.length > 0) {
    const turn = waiting
      .filter(({ needs }) => needs.every((id) => !known.has(id) || ended.has(id)))
      .slice(0, TURN_OF);
    if (turn.length === 0) throw new BadDays('Tasks wait for each other in a circle.');
    const begun = turn.map((task) => soonest(task, { standings, ended, time, teams }));
    const { task, team, stretches, end } = begun.reduce((best, one) =>
      one.begin < best.begin - 1e-9 ? one : best,
    );
    waiting.splice(waiting.indexOf(task), 1);
    for (const n of team) standings[n] = { free: end, at: task.places[0] ?? null };
    ended.set(task.id, end);
    done.push({ task, team, stretches });
  }
  return { order, done, end: Math.max(...ended.values()), ...presence(done) };
}

/** The team that is done with a task the earliest, as everybody stands now. */
function soonest(
  task: DayTask,
  {
    standings,
    ended,
    time,
    teams,
  }: { standings: readonly Standing[]; ended: ReadonlyMap<string, number>; time: TeamTime; teams: Teams },
): Laid['done'][number] & { begin: number; end: number } {
  const earliest = Math.max(0, ...task.needs.map((id) => ended.get(id) ?? 0));
  let best: (Laid['done'][number] & { begin: number; end: number }) | null = null;
  for (const team of teams.get(task.id) ?? []) {
    const own = team.map((n) => standings[n] as Standing);
    const stretches = time.perform(task, team, own, earliest);
    const [begin, end] = [stretches?.[0]?.from ?? Infinity, stretches?.at(-1)?.to ?? Infinity];
    if (stretches && (!best || end < best.end - 1e-9)) best = { task, team, stretches, begin, end };
  }
  if (!best) throw new BadDays(neverDone(task));
  return best;
}

const neverDone = ({ places, items: [first] }: DayTask): string =>
  `${first?.label ?? 'A link'}: at no time is ${places.join(' and ')} open while who can do it is there for long enough.`;

function presence(done: Laid['done']): Pick<Laid, 'personDays' | 'present'> {
  const days = new Map<string, [number, number]>();
  for (const { team, stretches } of done)
    for (const { from, to } of stretches)
      for (const n of team) {
        const key = `${n}/${dayOf(to)}`;
        const seen = days.get(key);
        days.set(key, seen ? [Math.min(seen[0], from), Math.max(seen[1], to)] : [from, to]);
      }
  const present = [...days.values()].reduce((sum, [from, to]) => sum + to - from, 0);
  return { personDays: days.size, present };
}

/** Below 0 where the first is the better: the day it ends, days of people, their hours, the minute it ends. */
function compare(a: Laid, b: Laid): number {
  return dayOf(a.end) - dayOf(b.end) || a.personDays - b.personDays || a.present - b.present || a.end - b.end;
}

const bestOf = (all: readonly Laid[]): Laid =>
  all.reduce((best, one) => (compare(one, best) < 0 ? one : best));

/** Orders to begin with: as the job has them, what has most to come after it first, and what takes longest first. */
function firstOrders(tasks: readonly DayTask[], earliest: ReadonlyMap<string, number>): DayTask[][] {
  const minutes = ({ items }: DayTask): number => items.reduce((sum, one) => sum + one.minutes, 0);
  const tails = new Map<string, number>();
  const tail = (task: DayTask): number => {
    const known = tails.get(task.id);
    if (known !== undefined) return known;
    const after = tasks.filter(({ needs }) => needs.includes(task.id)).map(tail);
    const all = minutes(task) + Math.max(0, ...after);
    tails.set(task.id, all);
    return all;
  };
  return [
    [...tasks],
    [...tasks].sort((a, b) => tail(b) - tail(a)),
    [...tasks].sort((a, b) => (earliest.get(a.id) ?? 0) - (earliest.get(b.id) ?? 0) || tail(b) - tail(a)),
  ];
}

/** When each task could end if everybody were free for it: no plan ends one earlier. */
function earliestEnds(tasks: readonly DayTask[], time: TeamTime, teams: Teams): Map<string, number> {
  const ends = new Map<string, number>();
  const free: Standing = { free: 0, at: null };
  const endOf = (task: DayTask): number => {
    const known = ends.get(task.id);
    if (known !== undefined) return known;
    const before = tasks.filter(({ id }) => task.needs.includes(id)).map(endOf);
    const all = (teams.get(task.id) ?? []).map(
      (team) =>
        time
          .perform(
            task,
            team,
            team.map(() => free),
            Math.max(0, ...before),
          )
          ?.at(-1)?.to ?? Infinity,
    );
    const end = Math.min(...all);
    if (end === Infinity) throw new BadDays(neverDone(task));
    ends.set(task.id, end);
    return end;
  };
  for (const task of tasks) endOf(task);
  return ends;
}

/** The first day by which those who have a skill were there for as many minutes as there is such work; and all for all of it. */
function capacityDay(tasks: readonly DayTask[], time: TeamTime, workers: readonly PersonAtWork[]): number {
  const work = (wanted: (task: DayTask) => boolean): number =>
    tasks
      .filter(wanted)
      .reduce((sum, { items }) => sum + items.reduce((own, { minutes }) => own + minutes, 0), 0);
  const by = (minutes: number, able: readonly number[]): number => {
    let there = 0;
    for (let ahead = 0; ; ahead++) {
      there += able.reduce((sum, n) => sum + time.atWork(n, ahead), 0);
      if (there >= minutes - 1e-6) return ahead;
    }
  };
  const skills = [...new Set(tasks.map(({ skill }) => skill))];
  const all = workers.flatMap(({ skills: own }, n) =>
    own.some((skill) => skills.includes(skill)) ? [n] : [],
  );
  return Math.max(
    by(work(() => true), all), // prettier-ignore
    ...skills.map((skill) =>
      by(
        work((task) => task.skill === skill),
        workers.flatMap(({ skills: own }, n) => (own.includes(skill) ? [n] : [])),
      ),
    ),
  );
}

function told(
  { done, end, personDays, order }: Laid,
  { begins, workers }: DaysAsked,
  leastDay: number,
): DayPlan {
  const visits = done
    .flatMap(({ task: { id, kind, skill, places }, team, stretches }) =>
      stretches.map((stretch) => ({ ...stretch, id, kind, skill, places, team })),
    )
    .sort((a, b) => a.from - b.from)
    .map(({ id, kind, skill, places, team, from, to, labels }): Visit => {
      const ahead = dayOf(to);
      return {
        task: id,
        kind,
        skill,
        places,
        people: team.map((n) => workers[n]?.name ?? ''),
        day: dayAfter(begins, ahead),
        from: from - ahead * DAY_MINUTES,
        to: to - ahead * DAY_MINUTES,
        labels,
      };
    });
  return {
    visits,
    ends: { day: dayAfter(begins, dayOf(end)), minute: end - dayOf(end) * DAY_MINUTES },
    atLeast: dayAfter(begins, leastDay),
    personDays,
    order: order.map(({ id }) => id),
  };
}
