import type { CrewMember } from '@near-spoke/contracts';
import { asc, eq } from 'drizzle-orm';
import type { Sql } from '../db/open.js';
import { crewMember, membership } from '../db/schema.js';

/** Of people who came with an archive: no passphrase matches it. */
export const NO_PASSPHRASE = '-';

/** A person, and what they are in the crew that is worked for. */
const people = (db: Sql) =>
  db
    .select({
      id: crewMember.id,
      name: crewMember.name,
      role: membership.role,
      active: membership.active,
      version: membership.version,
    })
    .from(crewMember)
    .innerJoin(membership, eq(membership.personId, crewMember.id));

/** Everybody who is or was in the crew, in the order in which they came to the installation. */
export const readPeople = (db: Sql): Promise<CrewMember[]> =>
  people(db).orderBy(asc(crewMember.createdAt), asc(crewMember.id));

export async function readPerson(db: Sql, id: string): Promise<CrewMember | null> {
  return (await people(db).where(eq(crewMember.id, id)))[0] ?? null;
}

/** Brings a new person into the crew. */
export async function addPerson(
  tx: Sql,
  {
    id,
    name,
    passphraseHash,
    createdAt,
    ...as
  }: typeof crewMember.$inferInsert & Pick<typeof membership.$inferInsert, 'role' | 'active'>,
): Promise<void> {
  await tx.insert(crewMember).values({ id, name, passphraseHash, ...(createdAt ? { createdAt } : {}) });
  await tx.insert(membership).values({ personId: id, ...as });
}
