/** What one is able to do. */
export type Skill = 'pull' | 'pairs' | 'coax' | 'test';

export const SKILLS: Readonly<Record<Skill, string>> = {
  pull: 'pulling in',
  pairs: 'ends of pairs',
  coax: 'ends of coax',
  test: 'testing',
};

export type TaskKind = 'pull' | 'near' | 'far' | 'test';

/** Work that is done in one go at one place, link by link. */
export interface DayTask {
  id: string;
  kind: TaskKind;
  skill: Skill;
  /** Rooms that have to be open; hands stand in the first. */
  places: readonly string[];
  /** Minutes of one pair of hands. */
  items: readonly { label: string; minutes: number }[];
  /** Tasks that are done before. */
  needs: readonly string[];
  /** People who do it together, where there are as many: minutes are shared. */
  hands: number;
}

/** A link with what of it is still to be done. */
export interface LinkToDo {
  label: string;
  hub: string;
  room: string;
  pulled: boolean;
  near: { done: boolean; skill: 'pairs' | 'coax'; minutes: number };
  far: { done: boolean; skill: 'pairs' | 'coax'; minutes: number };
  proved: boolean;
}

/** Two pull what one would: one feeds, one draws. */
const PULLED_BY = 2;

/**
 * A job's work that is left as tasks: what goes from one hub to one room is pulled in together, its ends are made at either side
 * once it is in, and it is tested when both are made.
 *
 * @param minutes to pull in one piece, and to test and label one link, of one pair of hands
 */
export function tasksOf(links: readonly LinkToDo[], minutes: { pull: number; test: number }): DayTask[] {
  const ways = new Map<string, LinkToDo[]>();
  for (const link of links) {
    // What is in already waits for no other piece.
    const way = `${link.hub} > ${link.room}${link.pulled ? ', in' : ''}`;
    ways.set(way, [...(ways.get(way) ?? []), link]);
  }
  return [...ways].flatMap(([way, own]) => tasksOfWay(way, own, minutes));
}

function tasksOfWay(
  way: string,
  links: readonly LinkToDo[],
  minutes: { pull: number; test: number },
): DayTask[] {
  const [{ hub, room } = { hub: '', room: '' }] = links;
  const tasks: DayTask[] = [];
  const add = (
    kind: TaskKind,
    skill: Skill,
    items: DayTask['items'],
    more: Pick<DayTask, 'places' | 'needs'>,
  ): void => {
    if (items.length === 0) return;
    const hands = kind === 'pull' ? PULLED_BY : 1;
    tasks.push({ id: `${kind} ${skill} ${way}`, kind, skill, items, hands, ...more });
  };
  const each = (of: readonly LinkToDo[], time: (link: LinkToDo) => number): DayTask['items'] =>
    of.map((link) => ({ label: link.label, minutes: time(link) }));
  const out = links.filter(({ pulled }) => !pulled);
  add(
    'pull',
    'pull',
    each(out, () => minutes.pull),
    { places: [hub, room], needs: [] },
  );
  const pulled = tasks.map(({ id }) => id);
  for (const [kind, place] of [
    ['near', hub],
    ['far', room],
  ] as const)
    // prettier-ignore
    for (const skill of ['pairs', 'coax'] as const) {
      const open = links.filter((link) => !link[kind].done && link[kind].skill === skill);
      add(kind, skill, each(open, (link) => link[kind].minutes), { places: [place], needs: pulled });
    }
  const unproved = links.filter(({ proved }) => !proved);
  add(
    'test',
    'test',
    each(unproved, () => minutes.test),
    {
      places: [room, hub],
      needs: tasks.map(({ id }) => id),
    },
  );
  return tasks;
}
