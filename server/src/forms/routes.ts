import type { CrewForm } from '@near-spoke/contracts';
import { and, asc, eq, ne, sql } from 'drizzle-orm';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { keepOnce } from '../db/once.js';
import type { Sql } from '../db/open.js';
import { crewForm, crewMember } from '../db/schema.js';
import { badField, notFound } from '../problems.js';

/** So many a crew may keep: more nobody finds his way about. */
const MOST = 200;

async function readForms(db: Sql, formId?: string): Promise<CrewForm[]> {
  const rows = await db
    .select({ form: crewForm, by: crewMember.name })
    .from(crewForm)
    .innerJoin(crewMember, eq(crewMember.id, crewForm.updatedBy))
    .where(formId ? eq(crewForm.id, formId) : undefined)
    .orderBy(asc(crewForm.kind), asc(sql`lower(${crewForm.name})`));
  return rows.map(
    ({ form: { ofCrew: _, ...form }, by }) =>
      ({ ...form, updatedAt: form.updatedAt.toISOString(), updatedBy: by }) as CrewForm,
  );
}

/** What the crew keeps as its own for reports and labels. */
export function formHandlers({ db }: Context): Pick<Handlers, 'listForms' | 'keepForm' | 'removeForm'> {
  return {
    listForms: () => readForms(db),
    keepForm: ({ body, crew }) =>
      db.transaction(async (tx) => {
        const [same] = await tx
          .select({ id: crewForm.id })
          .from(crewForm)
          .where(
            and(
              eq(crewForm.kind, body.kind),
              eq(sql`lower(${crewForm.name})`, body.name.toLowerCase()),
              ne(crewForm.id, body.id),
            ),
          );
        if (same) throw badField('name', `There is one called ${body.name} already. Give another name.`);
        const [count] = await tx.select({ n: sql<number>`count(*)::int` }).from(crewForm);
        if ((count?.n ?? 0) >= MOST)
          throw badField('name', `${MOST} are kept already. Remove one that nobody uses.`);
        await keepOnce(tx, crewForm, { ...body, updatedBy: crew.id }, body);
        const [kept] = await readForms(tx, body.id);
        if (!kept) throw notFound('form');
        return kept;
      }),
    removeForm: async ({ params }) => {
      const removed = await db
        .delete(crewForm)
        .where(eq(crewForm.id, params.formId))
        .returning({ id: crewForm.id });
      if (removed.length === 0) throw notFound('form');
      return { removed: true };
    },
  };
}
