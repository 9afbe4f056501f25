import { createHash, randomBytes, randomInt } from 'node:crypto';
import {
  CODE_LETTERS,
  type Link,
  type newHelper,
  type newToldThing,
  type OpenByTwo,
  type TogetherState,
  type touchesByTwo,
  type wiresToTell,
} from '@near-spoke/contracts';
import {
  helperRoundsOf,
  isTimely,
  isTimelyOfWires,
  JoiningMistake,
  namesByRounds,
  planIdentification,
  probeMap,
  servingAsReturn,
  twoEnds,
  wiresByTwo,
  type LinkEnd,
  type Told,
} from '@near-spoke/core';
import { and, asc, eq, gt, inArray, isNull, sql } from 'drizzle-orm';
import type * as z from 'zod';
import { logActivity } from '../activity.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { crewMember, link, together, togetherHelper, togetherTold } from '../db/schema.js';
import { groundsOf } from '../links/standing.js';
import { readLinks } from '../links/store.js';
import { badField, jobClosed, notFound, refuseOther, Refusal } from '../problems.js';
import { TOLD_CHANNEL } from './hub.js';

/** A code that was forgotten opens nothing after this long. */
const OPEN_FOR = sql`now() - interval '12 hours'`;

export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const newCode = (): string =>
  Array.from({ length: 6 }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');

/** Who helps, as the token of the device says. */
export interface Helper {
  togetherId: string;
  end: LinkEnd;
  name: string;
}

/** How far two people have come; what is asked next is worked out from what was told. */
export async function readTogether(
  db: Sql,
  id: string,
  helper: Helper | null = null,
): Promise<TogetherState> {
  const [row] = await db
    .select({ of: together, startedBy: crewMember.name })
    .from(together)
    .innerJoin(crewMember, eq(crewMember.id, together.by))
    .where(eq(together.id, id));
  if (!row) throw notFound('work by two');
  const { linkId, wires, list, code, at, endedAt } = row.of;
  const told = await toldOf(db, [id]);
  const { answers, on, people, calls } = twoEnds(told);
  return {
    id,
    linkId,
    code,
    startedBy: row.startedBy,
    at: at.toISOString(),
    ended: endedAt !== null,
    told: told.length,
    answers: [...answers],
    on: { ...on },
    people: { near: [...people.near], far: [...people.far] },
    calls,
    helper: helper && { name: helper.name, end: helper.end },
    ...(list ? aboutList(list, answers) : await aboutLink(db, linkId, answers)),
    list: list && { over: list.over, touches: list.touches.length },
    wires: wires && toldOfWires(wires, told),
  };
}

/** What is being done by two just now, and is not forgotten yet. */
export async function readOpen(db: Sql): Promise<OpenByTwo[]> {
  const rows = await db
    .select({ of: together, startedBy: crewMember.name })
    .from(together)
    .innerJoin(crewMember, eq(crewMember.id, together.by))
    .where(and(isNull(together.endedAt), gt(together.at, OPEN_FOR)))
    .orderBy(asc(together.at), asc(together.id));
  const ids = rows.map(({ of }) => of.id);
  const told = ids.length === 0 ? [] : await toldOf(db, ids);
  const links = await readLinks(db, { linkIds: rows.flatMap(({ of }) => of.linkId ?? []) });
  return rows.map(({ of, startedBy }) => {
    const about = links.find(({ id }) => id === of.linkId);
    const ofThis = told.filter(({ togetherId }) => togetherId === of.id);
    const { answers, people } = twoEnds(ofThis);
    return {
      id: of.id,
      linkId: of.linkId,
      jobId: about?.jobId ?? null,
      of: of.wires ? 'wires' : !of.list ? 'link' : of.list.over === 'remote' ? 'round' : 'touches',
      label: of.list?.label ?? about?.label ?? WIRES.label,
      ends: of.list?.ends ?? (about ? endsOf(about) : WIRES.ends),
      code: of.code,
      startedBy,
      at: of.at.toISOString(),
      people: { near: [...people.near], far: [...people.far] },
      done: of.wires ? wiresByTwo(ofThis).found.length : answers.length,
    };
  });
}

const WIRES = { label: 'Unmarked wires', ends: { near: 'A', far: 'B' } } as const;

/** What lies at each end of a link. */
const endsOf = ({ near, far }: Link): TogetherState['ends'] => ({
  near: `${near.panel} ${near.port}`,
  far: `${far.room} ${far.outlet}`,
});

/** Which link it is, and the touch that is next on it. */
async function aboutLink(
  db: Sql,
  linkId: string | null,
  answers: readonly boolean[],
): Promise<Pick<TogetherState, 'label' | 'ends' | 'next'>> {
  if (linkId === null) return { ...WIRES, next: null };
  const { expected } = await groundsOf(db, linkId);
  const [of] = await readLinks(db, { linkIds: [linkId] });
  const asked = probeMap(expected, answers);
  const touch = asked.step === 'touch' ? asked.touch : null;
  const place = ({ end, contacts }: { end: LinkEnd; contacts: readonly string[] }) => ({
    end,
    contacts: [...contacts],
  });
  return {
    label: of?.label ?? '',
    ends: of ? endsOf(of) : { near: '', far: '' },
    next: touch && {
      from: place(touch.from),
      to: place(touch.to),
      join: [],
      sweep: touch.sweep,
      should: touch.should,
      why: touch.why,
    },
  };
}

type TouchList = Omit<z.output<typeof touchesByTwo>, 'id'>;

/** What a list of touches is of, and the touch that is next on it. */
function aboutList(
  { label, ends, touches }: TouchList,
  answers: readonly boolean[],
): Pick<TogetherState, 'label' | 'ends' | 'next'> {
  const next = touches[answers.length];
  return { label, ends, next: next ? { ...next, why: next.should ? 'path' : 'isolation' } : null };
}

function toldOfWires(
  { count, hasReturn }: { count: number; hasReturn: boolean },
  told: readonly Told[],
): TogetherState['wires'] {
  const plan = planIdentification({ count, hasReturn, helper: true });
  const { names, joined, found } = wiresByTwo(told);
  const rounds = plan.way === 'helper' ? helperRoundsOf(plan) : [];
  const next = rounds[found.length];
  const state = {
    count,
    hasReturn,
    names: names && [...names],
    joined,
    found: found.map((round) => [...round]),
    rounds: rounds.length,
    round: next ? { join: [...next.join], to: next.to } : null,
    serving: hasReturn ? null : servingAsReturn(found),
    told: null,
    mistake: '',
  };
  if (plan.way !== 'helper' || next || names === null) return state;
  try {
    const known = namesByRounds(plan, names, found);
    return {
      ...state,
      told: Object.entries(known).map(([number, name]) => ({ number: Number(number), name })),
    };
  } catch (error) {
    if (error instanceof JoiningMistake) return { ...state, mistake: error.message };
    throw error;
  }
}

const toldOf = (db: Sql, ids: readonly string[]): Promise<(Told & { togetherId: string })[]> =>
  db
    .select({
      togetherId: togetherTold.togetherId,
      end: togetherTold.end,
      who: togetherTold.who,
      doing: togetherTold.doing,
    })
    .from(togetherTold)
    .where(inArray(togetherTold.togetherId, [...ids]))
    .orderBy(asc(togetherTold.n));

/** Begins to prove a link by two, or goes on with what is begun: of two that begin at once one does. */
export async function beginTogether(
  tx: Sql,
  linkId: string,
  id: string,
  crew: { id: string; name: string },
): Promise<string> {
  const [of] = await tx
    .select({ jobId: link.jobId, label: link.label })
    .from(link)
    .where(eq(link.id, linkId))
    .for('update');
  if (!of) throw notFound('link');
  if ((await groundsOf(tx, linkId)).closed) throw jobClosed();
  await tx
    .update(together)
    .set({ endedAt: sql`now()` })
    .where(and(eq(together.linkId, linkId), isNull(together.endedAt), sql`${together.at} < ${OPEN_FOR}`));
  const [open] = await tx
    .select({ id: together.id })
    .from(together)
    .where(and(eq(together.linkId, linkId), isNull(together.endedAt)));
  if (open) return open.id;
  const begun = await keepOnce(tx, together, { id, linkId, code: newCode(), by: crew.id }, { id, linkId });
  if (begun)
    await logActivity(tx, {
      by: crew.id,
      jobId: of.jobId,
      linkId,
      what: `began to prove ${of.label} with somebody at the other end`,
    });
  return id;
}

/** Begins to tell unmarked conductors apart by two. */
export async function beginWires(
  tx: Sql,
  { id, count, hasReturn }: z.output<typeof wiresToTell>,
  crewId: string,
): Promise<string> {
  const plan = planIdentification({ count, hasReturn, helper: true });
  if (plan.way === 'impossible') throw badField('count', plan.why);
  const wires = { count, hasReturn };
  await keepOnce(tx, together, { id, wires, code: newCode(), by: crewId }, { id, wires });
  return id;
}

/** Begins to make a list of touches by two. */
export async function beginTouches(
  tx: Sql,
  { id, ...list }: z.output<typeof touchesByTwo>,
  crewId: string,
): Promise<string> {
  await keepOnce(tx, together, { id, list, code: newCode(), by: crewId }, { id, list });
  return id;
}

/**
 * Keeps what was told, once. What comes too late for the touch that it was meant for is refused, and says why: both ends
 * answered, and the first counts.
 */
export async function tell(
  tx: Sql,
  togetherId: string,
  { id, end, doing }: z.output<typeof newToldThing>,
  who: string,
): Promise<void> {
  const [of] = await tx
    .select({ endedAt: together.endedAt, wires: together.wires, list: together.list })
    .from(together)
    .where(eq(together.id, togetherId))
    .for('update');
  if (!of) throw notFound('work by two');
  const [kept] = await tx.select().from(togetherTold).where(eq(togetherTold.id, id));
  if (kept) {
    refuseOther(kept, { id, togetherId, end, who, doing });
    return;
  }
  if (of.endedAt) throw ended();
  const told = await toldOf(tx, [togetherId]);
  const timely = of.wires ? isTimelyOfWires(wiresByTwo(told), { doing }) : isTimely(twoEnds(told), doing);
  if (of.wires && doing.does === 'named' && doing.names.length !== of.wires.count)
    throw badField('doing.names', `There are ${of.wires.count} conductors: name each, and none twice.`);
  if (of.list && doing.does === 'answered' && doing.touch >= of.list.touches.length)
    throw badField('doing.touch', `The list has ${of.list.touches.length} touches, and all are answered.`);
  if (!timely)
    throw new Refusal(
      409,
      'The other end was first',
      'That was answered, or taken back, at the other end meanwhile. Look at what is asked now.',
    );
  await keepOnce(tx, togetherTold, { id, togetherId, n: told.length + 1, end, who, doing });
  await tx.execute(sql`SELECT pg_notify(${TOLD_CHANNEL}, ${togetherId})`);
}

const ended = (): Refusal =>
  new Refusal(409, 'It is ended', 'This was ended at the other end. What was saved there stands.');

/** Ends it, once. */
export async function endTogether(tx: Sql, id: string): Promise<void> {
  const done = await tx
    .update(together)
    .set({ endedAt: sql`coalesce(${together.endedAt}, now())` })
    .where(eq(together.id, id))
    .returning({ id: together.id });
  if (done.length === 0) throw notFound('work by two');
  await tx.execute(sql`SELECT pg_notify(${TOLD_CHANNEL}, ${id})`);
}

/** Ends the proofs of links that became readings: each reading has its proof's id, so that of two who save it one does. */
export async function endBecomes(
  tx: Sql,
  readings: readonly { linkId: string; id: string }[],
): Promise<void> {
  const linkOf = new Map(readings.map(({ id, linkId }) => [id, linkId]));
  const open = await tx
    .select({ id: together.id, linkId: together.linkId })
    .from(together)
    .where(and(inArray(together.id, [...linkOf.keys()]), isNull(together.endedAt)));
  for (const { id, linkId } of open) if (linkOf.get(id) === linkId) await endTogether(tx, id);
}

export const noSuchCode = (): Refusal =>
  new Refusal(
    404,
    'No such code',
    'Nobody waits under this code. Have it read out again at the other end; once that proof is ended, its code opens nothing.',
  );

/** Lets somebody help by the code. @returns the token of the device, which is kept nowhere else */
export async function admitHelper(
  tx: Sql,
  { code, name, end }: z.output<typeof newHelper>,
): Promise<{ token: string; helper: Helper }> {
  const [open] = await tx
    .select({ id: together.id })
    .from(together)
    .where(and(eq(together.code, code), isNull(together.endedAt), gt(together.at, OPEN_FOR)));
  if (!open) throw noSuchCode();
  const token = randomBytes(32).toString('base64url');
  await tx.insert(togetherHelper).values({ tokenHash: hashOf(token), togetherId: open.id, end, name });
  return { token, helper: { togetherId: open.id, end, name } };
}

/** Who helps with this token; null for nobody. */
export async function helperOf(db: Sql, token: string): Promise<Helper | null> {
  const [row] = await db
    .select({ togetherId: togetherHelper.togetherId, end: togetherHelper.end, name: togetherHelper.name })
    .from(togetherHelper)
    .where(eq(togetherHelper.tokenHash, hashOf(token)));
  return row ?? null;
}
