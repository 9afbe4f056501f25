import { createInterface } from 'node:readline/promises';
import { Plain, say } from './plain.mjs';

const LEAST = 12;

/** Asks for a new passphrase on the terminal, or takes the first line of what is piped in. */
export async function askPassphrase(name) {
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question(`New passphrase for ${name} (at least ${LEAST} characters): `);
  ask.close();
  return answer.trim();
}

/**
 * Gives a person of the crew a new passphrase, for one who has lost it and whom nobody else can let in: whoever can
 * start the application holds its data anyway. All that person's sessions end.
 */
export async function giveNewPassphrase(url, name, passphrase) {
  if (passphrase.length < LEAST)
    throw new Plain(`That passphrase is too short: at least ${LEAST} characters. Nothing was changed.`);
  const [{ default: pg }, { hash }] = await Promise.all([import('pg'), import('@node-rs/argon2')]);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query(
      'SELECT id, name FROM crew_member WHERE lower(name) = lower($1) ORDER BY passphrase_hash = $2',
      [name, '-'],
    );
    const [person] = rows;
    if (!person) {
      const crew = await client.query('SELECT name FROM crew_member ORDER BY created_at');
      throw new Plain(
        `There is nobody called ${name}. The crew: ${crew.rows.map((row) => row.name).join(', ') || 'nobody yet'}.`,
      );
    }
    await client.query('BEGIN');
    await client.query('UPDATE crew_member SET passphrase_hash = $2 WHERE id = $1', [
      person.id,
      await hash(passphrase),
    ]);
    // In at least one crew again: who was let out of all comes back where they were first.
    await client.query(
      `UPDATE membership m SET active = true, version = version + 1
       WHERE person_id = $1 AND NOT EXISTS (SELECT FROM membership WHERE person_id = $1 AND active)
         AND of_crew = (SELECT of_crew FROM membership WHERE person_id = $1 ORDER BY since, of_crew LIMIT 1)`,
      [person.id],
    );
    await client.query('DELETE FROM session WHERE crew_id = $1', [person.id]);
    await client.query('COMMIT');
    say(`${person.name} has a new passphrase.`);
  } finally {
    await client.end();
  }
}
