import type { CrewMember } from '@near-spoke/contracts';
import { and, asc, eq, ne, or, sql } from 'drizzle-orm';
import { hashPassphrase } from '../access/passphrase.js';
import { currentSession } from '../access/sessions.js';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';
import { outsideCrews } from '../db/crew.js';
import type { Sql } from '../db/open.js';
import { crewMember, membership, session } from '../db/schema.js';
import { judgeAgain, judgeLater, notInOrder } from '../links/standing.js';
import { badField, changedSince, notFound, refuseOther, type Refusal } from '../problems.js';
import { invite, readInvitations, takeBack } from './crews.js';
import { addPerson, NO_PASSPHRASE, readPeople, readPerson } from './people.js';
import { AT_HAND, HANDS, readSaid, say } from './said.js';

/** Who works in other crews too is given a passphrase by themselves alone: no lead of one crew gets into another by it. */
const ownPassphrase = (): Refusal =>
  badField(
    'passphrase',
    'This person works in another crew too: they change it themselves, under Yourself, or get a new one on the machine itself.',
  );

export function crewHandlers(
  context: Context,
): Pick<
  Handlers,
  | 'listCrew'
  | 'addCrew'
  | 'changeCrew'
  | 'readAtHand'
  | 'keepAtHand'
  | 'readHands'
  | 'keepHands'
  | 'listInvitations'
  | 'addInvitation'
  | 'endInvitation'
> {
  const { db } = context;
  return {
    listCrew: () => readPeople(db),

    addCrew: async ({ body }) => {
      const { passphrase, ...fields } = body;
      const passphraseHash = await hashPassphrase(passphrase);
      const [known] = await db.select().from(crewMember).where(eq(crewMember.id, body.id));
      if (known) {
        const person = await readPerson(db, body.id);
        refuseOther({ ...known, ...person }, fields);
      } else {
        await refuseName(db, body.name, body.id);
        await db.transaction((tx) => addPerson(tx, { ...fields, passphraseHash }));
      }
      return (await readPerson(db, body.id)) as CrewMember;
    },

    changeCrew: async ({ params, body, request }) => {
      const passphraseHash =
        body.passphrase === undefined ? undefined : await hashPassphrase(body.passphrase);
      const here = await currentSession(context, request);
      return db.transaction(async (tx) => {
        // Leads are locked in one order: two who change each other wait instead of blocking each other.
        await tx
          .select({ id: membership.personId })
          .from(membership)
          .where(or(eq(membership.personId, params.crewId), eq(membership.role, 'lead')))
          .orderBy(asc(membership.personId))
          .for('update');
        const person = await readPerson(tx, params.crewId);
        if (!person) throw notFound('person');
        if (person.version !== body.version)
          throw changedSince(person, 'another lead', new Date().toISOString());
        const role = body.role ?? person.role;
        const active = body.active ?? person.active;
        if (person.role === 'lead' && person.active && (role !== 'lead' || !active)) {
          const others = await tx
            .select({ id: membership.personId })
            .from(membership)
            .where(
              and(
                eq(membership.role, 'lead'),
                eq(membership.active, true),
                ne(membership.personId, person.id),
              ),
            );
          if (others.length === 0)
            throw badField('role', 'This is the only lead. Make somebody else lead first.');
        }
        if (passphraseHash) {
          // The database changes none of somebody who works elsewhere too.
          const [own] = await tx
            .select({ hash: crewMember.passphraseHash })
            .from(crewMember)
            .where(eq(crewMember.id, person.id));
          if (own?.hash === NO_PASSPHRASE) await refuseName(tx, person.name);
          const given = await tx
            .update(crewMember)
            .set({ passphraseHash })
            .where(eq(crewMember.id, person.id))
            .returning({ id: crewMember.id });
          if (given.length === 0) throw ownPassphrase();
        }
        await tx
          .update(membership)
          .set({ role, active, version: person.version + 1 })
          .where(eq(membership.personId, person.id));
        // A new passphrase or a closed account ends that person's other sessions: not the one it was changed in.
        if (passphraseHash || !active)
          await tx
            .delete(session)
            .where(and(eq(session.crewId, person.id), ne(session.tokenHash, here?.tokenHash ?? '')));
        return (await readPerson(tx, person.id)) as CrewMember;
      });
    },

    listInvitations: () => readInvitations(db),

    addInvitation: ({ body, crew }) => db.transaction((tx) => invite(tx, body, crew.id)),

    endInvitation: ({ params, crew }) =>
      db.transaction(async (tx) => {
        await takeBack(tx, params.invitationId, crew.id);
        return readInvitations(tx);
      }),

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

/**
 * A name that is somebody's already, here or in another crew of the installation: people sign in by it.
 *
 * @param id of a person who is being added: what was sent at the same time may have kept them meanwhile
 */
async function refuseName(db: Sql, name: string, id?: string): Promise<void> {
  const { rows } = await outsideCrews(() => db.execute(sql`SELECT FROM door_person(${name})`));
  if (rows.length === 0) return;
  const [here] = await db
    .select({ id: crewMember.id })
    .from(crewMember)
    .where(eq(sql`lower(${crewMember.name})`, name.toLowerCase()));
  if (here && here.id === id) return;
  throw badField(
    'name',
    here
      ? 'Somebody of that name is in the crew. Add an initial.'
      : 'Somebody signs in by that name in another crew here. Add an initial; or, if it is the same person, give them a code to come in by.',
    409,
  );
}
