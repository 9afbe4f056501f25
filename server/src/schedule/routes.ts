import { jobSchedule, type JobSchedule } from '@near-spoke/contracts';
import { USUAL_HANDS } from '@near-spoke/core';
import { asc, eq } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { HANDS, readSaid, say, type Said } from '../crew/said.js';
import { crewMember, membership } from '../db/schema.js';
import { readEndTimes } from '../figures/workmanship.js';
import { readJob } from '../jobs/store.js';
import { jobClosed } from '../problems.js';

/** Who works on a job, and when its places are open. */
const daysOf = (jobId: string): Said<JobSchedule> => ({
  name: `schedule ${jobId}`,
  shape: jobSchedule,
  nobodySaid: { schedule: null, version: 0 },
});

/** Who works on a job when; the days themselves are worked out by whoever looks. */
export function scheduleHandlers({ db }: Context): Pick<Handlers, 'readSchedule' | 'keepSchedule'> {
  return {
    readSchedule: async ({ params }) => {
      const job = await readJob(db, params.jobId);
      const crew = await db
        .select({ name: crewMember.name })
        .from(crewMember)
        .innerJoin(membership, eq(membership.personId, crewMember.id))
        .where(eq(membership.active, true))
        .orderBy(asc(crewMember.createdAt));
      return {
        ...(await readSaid(db, daysOf(job.id))),
        times: [...(await readEndTimes(db))],
        crew: crew.map(({ name }) => name),
        walkS: (await readSaid(db, HANDS)).hands?.walkS ?? USUAL_HANDS.walkS,
      };
    },
    keepSchedule: ({ params, body, crew }) =>
      db.transaction(async (tx) => {
        const job = await readJob(tx, params.jobId);
        if (job.closedAt) throw jobClosed();
        const kept = await say(tx, daysOf(job.id), body);
        await logActivity(tx, { by: crew.id, jobId: job.id, what: 'said who works on the job, and when' });
        return kept;
      }),
  };
}
