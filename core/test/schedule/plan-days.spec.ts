import * as fc from 'fast-check';
import {
  atWork,
  BadDays,
  bothOf,
  dayAfter,
  daysInOrder,
  openAt,
  planDays,
  tasksOf,
  weekdayOf,
  type DayPlan,
  type DaysAsked,
  type DayTask,
  type LinkToDo,
  type PersonAtWork,
  type PlaceHours,
  type Skill,
} from '@near-spoke/core';

const MONDAY = '2026-11-30';
const person = (name: string, change: Partial<PersonAtWork> = {}): PersonAtWork => ({
  name,
  days: [1, 2, 3, 4, 5],
  from: 480,
  to: 960,
  pause: { from: 720, minutes: 30 },
  off: [],
  skills: ['pull', 'pairs', 'coax', 'test'],
  ...change,
});
const end = (minutes: number, change: Partial<LinkToDo['near']> = {}): LinkToDo['near'] => ({
  done: false,
  skill: 'pairs',
  minutes,
  ...change,
});
const link = (label: string, change: Partial<LinkToDo> = {}): LinkToDo => ({
  label,
  hub: 'CR-1',
  room: 'Hall',
  pulled: false,
  near: end(5),
  far: end(5),
  proved: false,
  ...change,
});
const asked = (change: Partial<DaysAsked> = {}): DaysAsked => ({
  begins: MONDAY,
  workers: [person('Ines'), person('Tobi')],
  access: [],
  walkMinutes: 2,
  ...change,
});
const usual = { pull: 12, test: 6 };
const told = ({ visits }: DayPlan): string[] =>
  visits.map(({ day, from, to, kind, people }) => `${day} ${from}-${to} ${kind} ${people.join('+')}`);

describe('a job over days', () => {
  it('is worked by hand: two pull together, make an end each at the same time, and one tests', () => {
    const plan = planDays(tasksOf([link('A'), link('B')], usual), asked());
    // 2 pieces of 12 min by two: 12. Both ends of both: 10 each, one walks to the hall. Testing: 12.
    expect(plan.ends).toEqual({ day: MONDAY, minute: 480 + 12 + 2 + 10 + 12 });
    expect(told(plan).slice(0, 1)).toEqual([`${MONDAY} 480-492 pull Ines+Tobi`]);
    expect(told(plan).length).toBe(4);
    expect(plan.atLeast).toBe(MONDAY);
  });

  it('goes on after the pause, the next day and the weekend, and breaks no link off', () => {
    const links = Array.from({ length: 200 }, (_, n) => link(`L${n}`, { pulled: true, proved: true }));
    // 200 ends of 5 min at either side: 16.7 h for each of the two, 7.5 h a day.
    const plan = planDays(tasksOf(links, usual), asked({ begins: '2026-12-04' }));
    expect(plan.visits.map(({ day }) => day)).not.toContain('2026-12-05');
    expect(plan.ends?.day).toBe('2026-12-08');
    expect(plan.atLeast).toBe('2026-12-08');
    for (const { from, to, labels } of plan.visits) expect(to - from).toBeCloseTo(5 * labels.length, 6);
  });

  it('waits for a place to be open and for who can, and says where it never comes to that', () => {
    const open: PlaceHours = {
      place: 'Hall',
      days: [3],
      from: 360,
      to: 600,
      notBefore: null,
      notAfter: null,
    };
    const plan = planDays(tasksOf([link('A', { pulled: true })], usual), asked({ access: [open] }));
    expect(plan.visits.find(({ kind }) => kind === 'far')?.day).toBe('2026-12-02');
    expect(plan.visits.find(({ kind }) => kind === 'near')?.day).toBe(MONDAY);
    const never = { ...open, notAfter: '2026-12-01' };
    expect(() => planDays(tasksOf([link('A')], usual), asked({ access: [never] }))).toThrowError(
      BadDays,
      /A: at no time is CR-1 and Hall open/,
    );
    const unable = [person('Marit', { skills: ['pull', 'test'] })];
    expect(() => planDays(tasksOf([link('A')], usual), asked({ workers: unable }))).toThrowError(
      BadDays,
      /Nobody here does what A needs/,
    );
  });

  it('pulls alone where nobody else can, for as long as two would together', () => {
    const workers = [person('Ines'), person('Tobi', { skills: ['pairs'] })];
    const [pull] = planDays(tasksOf([link('A')], usual), asked({ workers })).visits;
    expect([pull?.people, (pull?.to ?? 0) - (pull?.from ?? 0)]).toEqual([['Ines'], 12]);
  });

  it('leaves nothing to do of what is proved, and waits for no piece that is in', () => {
    const done = end(5, { done: true });
    expect(
      planDays(tasksOf([link('A', { pulled: true, near: done, far: done, proved: true })], usual), asked())
        .ends,
    ).toBeNull();
    const tasks = tasksOf([link('A'), link('B', { pulled: true })], usual);
    const near = tasks.find(({ kind, items }) => kind === 'near' && items[0]?.label === 'B');
    expect(near?.needs).toEqual([]);
  });

  const someLinks = fc
    .array(
      fc.record({
        room: fc.constantFrom('Hall', 'Loft', 'Quay'),
        hub: fc.constantFrom('CR-1', 'CR-2'),
        pulled: fc.boolean(),
        coax: fc.boolean(),
        done: fc.boolean(),
        minutes: fc.integer({ min: 1, max: 40 }),
      }),
      { minLength: 1, maxLength: 14 },
    )
    .map((all) =>
      all.map(({ room, hub, pulled, coax, done, minutes }, n) => {
        const skill = coax ? 'coax' : 'pairs';
        return link(`L${n}`, {
          room,
          hub,
          pulled,
          near: end(minutes, { skill, done }),
          far: end(minutes, { skill }),
        });
      }),
    );
  const someAsked = fc
    .record({
      pauses: fc.boolean(),
      hall: fc.boolean(),
      splitSkills: fc.boolean(),
      third: fc.boolean(),
      walkMinutes: fc.integer({ min: 0, max: 15 }),
    })
    .map(({ pauses, hall, splitSkills, third, walkMinutes }): DaysAsked => {
      const skills: Skill[] = ['pull', 'pairs', 'test'];
      const pause = pauses ? { from: 720, minutes: 45 } : null;
      return asked({
        walkMinutes,
        workers: [
          person('Ines', { pause }),
          person('Tobi', { pause, to: 900, ...(splitSkills ? { skills } : {}) }),
          ...(third ? [person('Marit', { days: [2, 4], off: ['2026-12-01'] })] : []),
        ],
        access: hall
          ? [{ place: 'Hall', days: [2, 3, 4], from: 600, to: 780, notBefore: '2026-12-02', notAfter: null }]
          : [],
      });
    });

  /** What is wrong with a plan, looked at minute by minute and by no formula of the planner. */
  function troubles(
    { visits }: DayPlan,
    tasks: readonly DayTask[],
    { workers, access, walkMinutes }: DaysAsked,
  ): string[] {
    const found: string[] = [];
    const when = (day: string, minute: number): number =>
      (Date.parse(day) - Date.parse(MONDAY)) / 60_000 + minute;
    for (const { id, items, needs } of tasks) {
      const own = visits.filter(({ task }) => task === id);
      if (own.flatMap(({ labels }) => labels).join() !== items.map(({ label }) => label).join())
        found.push(`${id}: not every link once`);
      const began = Math.min(...own.map(({ day, from }) => when(day, from)));
      for (const before of visits.filter(({ task }) => needs.includes(task)))
        if (when(before.day, before.to) > began + 1e-6) found.push(`${id} begins before ${before.task} ends`);
      for (const { labels, from, to, people } of own) {
        const minutes = items
          .filter(({ label }) => labels.includes(label))
          .reduce((sum, one) => sum + one.minutes, 0);
        if (Math.abs(minutes - (to - from) * people.length) > 1e-6) found.push(`${id}: other minutes`);
      }
    }
    for (const worker of workers) {
      const own = visits.filter(({ people }) => people.includes(worker.name));
      own.forEach(({ day, from, to, places, task }, n) => {
        if (!bothOf(atWork(worker, day), [[from, to]]).some(([a, b]) => b - a > to - from - 1e-6))
          found.push(`${worker.name} is not at work ${day} ${from}`);
        for (const place of places)
          if (!bothOf(openAt(place, access, day), [[from, to]]).some(([a, b]) => b - a > to - from - 1e-6))
            found.push(`${place} is shut ${day} ${from}`);
        const next = own[n + 1];
        const walk = next && next.task !== task && next.places[0] !== places[0] ? walkMinutes : 0;
        if (next && when(next.day, next.from) < when(day, to) + walk - 1e-6)
          found.push(`${worker.name} is in two places ${next.day} ${next.from}`);
      });
    }
    return found;
  }

  /** A short search: what is looked at here holds for any of it. */
  const briefly = (tasks: readonly DayTask[], given: DaysAsked): DayPlan =>
    planDays(tasks, given, (tried) => tried < 40);

  it('does each link once, in order, by people who are there, at places that are open, and never ends before its bound', () => {
    fc.assert(
      fc.property(someLinks, someAsked, (links, given) => {
        const tasks = tasksOf(links, usual);
        const plan = briefly(tasks, given);
        expect(troubles(plan, tasks, given)).toEqual([]);
        expect((plan.ends?.day ?? '') >= (plan.atLeast ?? '')).toBeTrue();
        expect(daysInOrder(tasks, plan.order, given).ends).toEqual(plan.ends);
      }),
      { numRuns: 40 },
    );
  });

  it('ends no later for another pair of hands or a longer day', () => {
    fc.assert(
      fc.property(someLinks, (links) => {
        const tasks = tasksOf(links, usual);
        const day = (given: DaysAsked): string => briefly(tasks, given).ends?.day ?? '';
        const two = day(asked());
        expect(day(asked({ workers: [person('Ines'), person('Tobi'), person('Marit')] })) <= two).toBeTrue();
        expect(
          day(asked({ workers: [person('Ines', { to: 1080 }), person('Tobi', { to: 1080 })] })) <= two,
        ).toBeTrue();
      }),
      { numRuns: 15 },
    );
  });

  it('ends on the bound’s own day in most jobs, and a day over it at the most in all but a few', () => {
    let [onIt, late, jobs] = [0, 0, 0];
    fc.assert(
      fc.property(someLinks, someAsked, (links, given) => {
        const { ends, atLeast } = briefly(tasksOf(links, usual), given);
        jobs++;
        if (ends?.day === atLeast) onIt++;
        else if ((ends?.day ?? '') > dayAfter(atLeast ?? MONDAY, 1)) late++;
      }),
      { numRuns: 50, seed: 11 },
    );
    expect(onIt / jobs).toBeGreaterThan(0.7);
    expect(late / jobs).toBeLessThan(0.1);
  });

  it('knows its weekdays', () => {
    expect([weekdayOf(MONDAY), weekdayOf('2026-12-06'), dayAfter('2026-12-31', 1)]).toEqual([
      1,
      7,
      '2027-01-01',
    ]);
  });
});
