import { hash, verify } from '@node-rs/argon2';

/** argon2id is the library's default; memory and passes as OWASP recommends (19 MiB, 2 passes). */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassphrase = (passphrase: string): Promise<string> => hash(passphrase, COST);

/** A hash nobody's passphrase has, so that an unknown name takes as long as a wrong passphrase. */
let decoy: Promise<string> | null = null;

/** Whether the passphrase is right. Takes the same time for an unknown name. */
export async function passphraseMatches(stored: string | null, given: string): Promise<boolean> {
  decoy ??= hashPassphrase('nobody has this passphrase');
  const matches = await verify(stored ?? (await decoy), given);
  return stored !== null && matches;
}
