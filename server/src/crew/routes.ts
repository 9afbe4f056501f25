import type { CrewMember } from '@near-spoke/contracts';
import { and, asc, eq, ne, or, sql } from 'drizzle-orm';
import { hashPassphrase } from '../access/passphrase.js';
import { currentSession } from '../access/sessions.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { keepOnce } from '../db/once.js';
import { crewMember, session } from '../db/schema.js';
import { judgeAgain, judgeLater, notInOrder } from '../links/standing.js';
import { badField, changedSince, notFound } from '../problems.js';
import { AT_HAND, HANDS, readSaid, say } from './said.js';

type Row = typeof crewMember.$inferSelect;

export const asCrewMember = ({ id, name, role, active, version }: Row): CrewMember => ({
  id,
  name,
  role,
  active,
  version,
});

export function crewHandlers(
  context: Context,
): Pick<
  Handlers,
  'listCrew' | 'addCrew' | 'changeCrew' | 'readAtHand' | 'keepAtHand' | 'readHands' | 'keepHands'
> {
  const { db } = context;
  return {
    listCrew: async () =>
      (await db.select().from(crewMember).orderBy(asc(crewMember.createdAt))).map(asCrewMember),

    addCrew: async ({ body }) => {
      const { passphrase, ...fields } = body;
      const passphraseHash = await hashPassphrase(passphrase);
      const [same] = await db
        .select()
        .from(crewMember)
        .where(eq(sql`lower(${crewMember.name})`, body.name.toLowerCase()));
      if (same && same.id !== body.id)
        throw badField('name', 'Somebody of that name is in the crew. Add an initial.', 409);
      await keepOnce(db, crewMember, { ...fields, passphraseHash }, fields);
      const [row] = await db.select().from(crewMember).where(eq(crewMember.id, body.id));
      return asCrewMember(row as Row);
    },

    changeCrew: async ({ params, body, request }) => {
      const passphraseHash =
        body.passphrase === undefined ? undefined : await hashPassphrase(body.passphrase);
      const here = await currentSession(context, request);
      return db.transaction(async (tx) => {
        // Leads are locked in one order: two who change each other wait instead of blocking each other.
        await tx
          .select({ id: crewMember.id })
          .from(crewMember)
          .where(or(eq(crewMember.id, params.crewId), eq(crewMember.role, 'lead')))
          .orderBy(asc(crewMember.id))
          .for('update');
        const [row] = await tx.select().from(crewMember).where(eq(crewMember.id, params.crewId));
        if (!row) throw notFound('person');
        if (row.version !== body.version)
          throw changedSince(asCrewMember(row), 'another lead', new Date().toISOString());
        const role = body.role ?? row.role;
        const active = body.active ?? row.active;
        if (row.role === 'lead' && row.active && (role !== 'lead' || !active)) {
          const others = await tx
            .select({ id: crewMember.id })
            .from(crewMember)
            .where(and(eq(crewMember.role, 'lead'), eq(crewMember.active, true), ne(crewMember.id, row.id)));
          if (others.length === 0)
            throw badField('role', 'This is the only lead. Make somebody else lead first.');
        }
        const [saved] = await tx
          .update(crewMember)
          .set({ role, active, ...(passphraseHash ? { passphraseHash } : {}), version: row.version + 1 })
          .where(eq(crewMember.id, row.id))
          .returning();
        // A new passphrase or a closed account ends that person's other sessions: not the one it was changed in.
        if (passphraseHash || !active)
          await tx
            .delete(session)
            .where(and(eq(session.crewId, row.id), ne(session.tokenHash, here?.tokenHash ?? '')));
        return asCrewMember(saved as Row);
      });
    },

    readAtHand: () => readSaid(db, AT_HAND),

    keepAtHand: async ({ body }) => {
      const said = await db.transaction(async (tx) => {
        const after = await say(tx, AT_HAND, body);
        await judgeAgain(tx, notInOrder);
        return after;
      });
      judgeLater(context);
      return said;
    },

    readHands: () => readSaid(db, HANDS),

    keepHands: ({ body }) => db.transaction((tx) => say(tx, HANDS, body)),
  };
}
