import type { ArchiveTaken, KitFile, PhotoHead } from '@near-spoke/contracts';
import type { ArchiveLink } from '@near-spoke/contracts/archive-files';
import { canonicalJson } from '@near-spoke/core/report';
import { eq } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { logActivity } from '../activity.js';
import { addPerson, NO_PASSPHRASE } from '../crew/people.js';
import type { Sql } from '../db/open.js';
import {
  activity,
  cableWork,
  crewMember,
  faultFound,
  handover,
  job,
  link,
  linkNote,
  reopening,
  signOff,
  terminationAttempt,
  testRecord,
  testingRound,
  traceRecord,
} from '../db/schema.js';
import { bareJpeg, photoHeadOf } from '../jpeg.js';
import { sizeOf } from '../links/notes.js';
import { onDevice } from '../links/record.js';
import { readKit, saveSheet } from '../kit/store.js';
import { putLinks } from '../links/plan.js';
import { Refusal } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { notTaken, type Archive } from './read.js';

/** Nobody signs in with this: no passphrase has such a hash. */

/**
 * Brings a job in from an archive, all of it or nothing; call it in a transaction. Who is named in it and not known here is
 * kept by name and cannot sign in; sheets that are missing here are added, those that are there stay as they are.
 *
 * @throws Refusal 409 where the job is here already, 422 with the file and the reason
 */
export async function takeArchive(tx: Sql, archive: Archive, by: string): Promise<ArchiveTaken> {
  const { job: head, people, rounds, signOffs } = await archive.job();
  const [known] = await tx.select({ title: job.title }).from(job).where(eq(job.id, head.id));
  if (known)
    throw new Refusal(
      409,
      'It is here already',
      `This job is here already, as ${known.title}. Nothing was changed.`,
    );
  const otherSheets = await takeKit(tx, await archive.kit(), by);
  const { ids, added } = await peopleByName(tx, people);
  const idOf = (name: string): string => {
    const id = ids.get(name.toLowerCase());
    if (id === undefined)
      throw notTaken('links.ndjson', `${name} is named in a record and not among the people.`);
    return id;
  };
  await tx.insert(job).values({ ...head, stretches: head.stretches ?? [], updatedBy: by });
  let links = 0;
  const own = new Set<string>();
  for await (const some of archive.links()) {
    const plans = some.map(({ plan }) => plan);
    const out = new Map(
      some.flatMap(({ plan, out: gone }) =>
        gone ? [[plan.id, { ...gone, at: new Date(gone.at), by: idOf(gone.by) }]] : [],
      ),
    );
    if ((await putLinks(tx, head.id, plans, by, { asItWas: true, out })) < plans.length)
      throw notTaken('links.ndjson', 'A link is in it twice.');
    for (const one of some) {
      own.add(one.plan.id);
      await takeRecords(tx, one, idOf);
    }
    links += some.length;
  }
  await archive.check('links.csv');
  if (rounds.filter(({ closed }) => !closed).length > 1)
    throw notTaken('job.json', 'Two rounds of tests are open at once.');
  if (rounds.length > 0)
    await tx.insert(testingRound).values(
      rounds.map((one) => ({
        ...one,
        startedAt: new Date(one.startedAt),
        by: idOf(one.by),
        jobId: head.id,
      })),
    );
  for await (const some of archive.log()) {
    const stray = some.find(({ linkId }) => linkId !== null && !own.has(linkId));
    if (stray) throw notTaken('log.ndjson', 'A line is about a link that is not there.');
    await tx
      .insert(activity)
      .values(some.map((one) => ({ ...one, at: new Date(one.at), by: idOf(one.by), jobId: head.id })));
  }
  if (signOffs.length > 0)
    await tx
      .insert(signOff)
      .values(signOffs.map((one) => ({ ...one, at: new Date(one.at), by: idOf(one.by), jobId: head.id })));
  await refreshSearch(tx, eq(link.jobId, head.id));
  await logActivity(tx, {
    by,
    jobId: head.id,
    what: `brought the job in from an archive: ${links} links`,
    hereOnly: true,
  });
  return { jobId: head.id, title: head.title, links, people: added, otherSheets };
}

/** Adds sheets that are missing; answers the names of those that are others here. */
async function takeKit(tx: Sql, file: KitFile, by: string): Promise<string[]> {
  const kit = await readKit(tx);
  const others: string[] = [];
  for (const [kind, given, here] of [
    ['cable', file.cables, kit.cables],
    ['connector', file.connectors, kit.connectors],
  ] as const)
    for (const sheet of given) {
      const own = (here as readonly { id: string }[]).find(({ id }) => id === sheet.id);
      if (!own) await saveSheet(tx, { kind, version: 0, sheet } as Parameters<typeof saveSheet>[1], by);
      else if (canonicalJson(own) !== canonicalJson(sheet)) others.push(sheet.name);
    }
  return others;
}

async function peopleByName(
  tx: Sql,
  names: readonly string[],
): Promise<{ ids: Map<string, string>; added: string[] }> {
  const known = await tx.select({ id: crewMember.id, name: crewMember.name }).from(crewMember);
  const ids = new Map(known.map(({ id, name }) => [name.toLowerCase(), id]));
  const added = names.filter((name) => !ids.has(name.toLowerCase()));
  for (const name of added) {
    const id = randomUUID();
    ids.set(name.toLowerCase(), id);
    await addPerson(tx, { id, name, role: 'viewer', passphraseHash: NO_PASSPHRASE, active: false });
  }
  return { ids, added };
}

async function takeRecords(tx: Sql, one: ArchiveLink, idOf: (name: string) => string): Promise<void> {
  const { plan, terminations, cableWork: works, tests, handovers, reopenings, notes, traces, found } = one;
  const linkId = plan.id;
  const recorded = <T extends { at: string; deviceAt?: string | undefined; by: string; turn: number }>(
    some: readonly T[],
  ) =>
    [...some]
      .sort((a, b) => a.turn - b.turn)
      .map((each) => ({
        ...each,
        ...onDevice(each),
        linkId,
        at: new Date(each.at),
        by: idOf(each.by),
      }));
  const all = [...terminations, ...works, ...tests, ...handovers, ...reopenings, ...notes, ...traces];
  const turns = all.map(({ turn }) => turn);
  if (new Set(turns).size !== turns.length)
    throw notTaken('links.ndjson', `${plan.label}: two records have one turn.`);
  // A correction is put in after what it corrects: both are of this link.
  const own = new Set([...terminations, ...tests].map(({ id }) => id));
  const stray = [...terminations, ...tests].find(({ corrects }) => corrects !== null && !own.has(corrects));
  if (stray) throw notTaken('links.ndjson', `${plan.label}: a record corrects one that is not there.`);
  if (handovers.some(({ testId }) => !own.has(testId)) || found.some(({ testId }) => !own.has(testId)))
    throw notTaken('links.ndjson', `${plan.label}: a record names a reading that is not there.`);
  if (terminations.length > 0) await tx.insert(terminationAttempt).values(recorded(terminations));
  if (works.length > 0) await tx.insert(cableWork).values(recorded(works));
  if (tests.length > 0) await tx.insert(testRecord).values(recorded(tests));
  if (handovers.length > 0) await tx.insert(handover).values(recorded(handovers));
  if (reopenings.length > 0) await tx.insert(reopening).values(recorded(reopenings));
  const noted = notes.map(({ jpeg, ...note }) => {
    if (!sameHead(note.photo, jpeg))
      throw notTaken('links.ndjson', `${plan.label}: a photo is not the one that was kept.`);
    return { ...note, photo: note.photo && sizeOf(note.photo), jpegBase64: jpeg };
  });
  if (noted.length > 0) await tx.insert(linkNote).values(recorded(noted));
  if (traces.length > 0) await tx.insert(traceRecord).values(recorded(traces));
  if (found.length > 0)
    await tx.insert(faultFound).values(found.map((each) => ({ ...each, linkId, at: new Date(each.at) })));
  // How it stands is judged here, by the rules and rates of here; of what is no part of the job when it comes back.
  await tx
    .update(link)
    .set({ turns: Math.max(0, ...turns), judged: turns.length === 0 || one.out !== undefined })
    .where(eq(link.id, linkId));
}

/** Whether a photo is bare, and what is told of it. */
function sameHead(head: PhotoHead | null, jpeg: string | null): boolean {
  if (head === null || jpeg === null) return head === null && jpeg === null;
  const bytes = Buffer.from(jpeg, 'base64');
  const bare = bareJpeg(bytes);
  return bare !== null && bare.equals(bytes) && canonicalJson(photoHeadOf(bare)) === canonicalJson(head);
}
