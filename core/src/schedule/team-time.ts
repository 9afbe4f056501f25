import {
  atWork,
  bothOf,
  dayAfter,
  DAY_MINUTES,
  openAt,
  type PlaceHours,
  type TimeSpan,
  type PersonAtWork,
} from './calendar.js';
import type { DayTask } from './tasks.js';

/** A piece of a task that is done without a break: minutes since the first day began. */
export interface Stretch {
  from: number;
  to: number;
  labels: string[];
}

/** Where somebody is and from when on they are free, minutes since the first day began. */
export interface Standing {
  free: number;
  at: string | null;
}

/** Nobody plans further ahead. */
const MOST_DAYS = 400;

/** When teams can be where work is. What days are like is looked up once each. */
export class TeamTime {
  private readonly days = new Map<string, readonly TimeSpan[]>();

  /**
   * @param begins the first day, as 2026-11-30
   * @param walkMinutes from one place to another
   */
  constructor(
    private readonly begins: string,
    readonly workers: readonly PersonAtWork[],
    private readonly access: readonly PlaceHours[],
    private readonly walkMinutes: number,
  ) {}

  /** When a team is at work and the places are open, on the day so many after the first, minutes of that day. */
  private spans(team: readonly number[], places: readonly string[], ahead: number): readonly TimeSpan[] {
    const key = `${ahead}|${team.join(',')}|${places.join('|')}`;
    let spans = this.days.get(key);
    if (spans) return spans;
    const day = dayAfter(this.begins, ahead);
    spans = [
      ...team.map((n) => atWork(this.workers[n] as PersonAtWork, day)),
      ...places.map((place) => openAt(place, this.access, day)),
    ].reduce(bothOf);
    this.days.set(key, spans);
    return spans;
  }

  /** Minutes that somebody is at work on a day. */
  atWork(worker: number, ahead: number): number {
    return this.spans([worker], [], ahead).reduce((sum, [from, to]) => sum + to - from, 0);
  }

  /**
   * How a team does a task as early as it can: link by link, none broken off, going on in the next window where one ends.
   *
   * @param standings of the team
   * @returns null where it never can
   */
  perform(
    { items, places }: DayTask,
    team: readonly number[],
    standings: readonly Standing[],
    earliest: number,
  ): Stretch[] | null {
    const [first = ''] = places;
    let at = Math.max(
      earliest,
      ...standings.map(
        ({ free, at: where }) => free + (where === null || where === first ? 0 : this.walkMinutes),
      ),
    );
    const stretches: Stretch[] = [];
    let next = 0;
    for (let ahead = Math.floor(at / DAY_MINUTES); ahead < MOST_DAYS; ahead++) {
      for (const [from, to] of this.spans(team, places, ahead)) {
        const begin = Math.max(at, ahead * DAY_MINUTES + from);
        const until = ahead * DAY_MINUTES + to;
        const labels: string[] = [];
        let now = begin;
        for (; next < items.length; next++) {
          const { label, minutes } = items[next] as DayTask['items'][number];
          const took = minutes / team.length;
          if (now + took > until + 1e-9) break;
          now += took;
          labels.push(label);
        }
        if (labels.length > 0) stretches.push({ from: begin, to: now, labels });
        if (next === items.length) return stretches;
        at = Math.max(at, now);
      }
    }
    return null;
  }
}
