import { SCREEN_CONTACT, type ContactId } from '../cabling/schemes.js';

const NOWHERE = /^(?:|-|0|x|o|open|none|nc)$/i;
const SCREEN_NAME = /^(?:s|sh|sc|shield|screen|g|gnd)$/i;
/** Near and far contact with a sign between: 1-1, 2>3, 3:2, 4=4; nothing behind it for an open. */
const STEP = /^([A-Za-z0-9]+)\s*(?:->|→|[-:>=])\s*([A-Za-z0-9+&]*)$/;

const contactOf = (name: string): ContactId => (SCREEN_NAME.test(name) ? SCREEN_CONTACT : name);

/**
 * A whole wire map as instruments write it in one cell: `1-1 2-3 3-2 ...` in any order, with a far contact per near one
 * (`+` or `&` between several that are joined, nothing, 0, x or `open` for none), or the far contacts alone in the order of the near ones,
 * a letter each (`12345678`). Near contacts that are not named reach nothing.
 *
 * @param contacts near contacts in their order, the screen last where there is one
 * @returns where each contact arrives, or what cannot be read
 */
export function readWireMapCell(
  cell: string,
  contacts: readonly ContactId[],
): Record<ContactId, ContactId[]> | { problem: string } {
  const text = cell.trim();
  const wires = contacts.filter((contact) => contact !== SCREEN_CONTACT);
  if (text === '') return { problem: 'The wire map is empty.' };
  const arrivals: Record<ContactId, ContactId[]> = Object.fromEntries(
    contacts.map((contact) => [contact, []]),
  );
  const tokens = text.split(/[\s,;|]+/);
  const compact = tokens.join('');
  const inLetters =
    tokens.length === 1 ? !/^[0-9]+-[0-9]*$/.test(compact) : tokens.every((one) => one.length === 1);
  if (
    /^[0-9SsXx-]+$/.test(compact) &&
    (inLetters || (tokens.length === 1 && compact.length === wires.length))
  ) {
    const letters = [...compact];
    if (letters.length !== wires.length && letters.length !== contacts.length)
      return {
        problem: `The wire map has ${letters.length} contacts, this link ${wires.length}: ${text}.`,
      };
    letters.forEach((letter, at) => {
      const near = contacts[at];
      if (near !== undefined && !NOWHERE.test(letter)) arrivals[near] = [contactOf(letter)];
    });
    return arrivals;
  }
  const seen = new Set<ContactId>();
  for (const step of text
    .replace(/(\S)\s+(->|→|[:>=])\s*/g, '$1$2')
    .split(/[\s,;|]+/)
    .filter(Boolean)) {
    const [, near = '', far = ''] = STEP.exec(step) ?? [];
    const contact = contactOf(near);
    if (near === '' || !contacts.includes(contact))
      return { problem: `“${step}” in the wire map names no contact of this link.` };
    if (seen.has(contact)) return { problem: `Contact ${contact} stands twice in the wire map.` };
    seen.add(contact);
    arrivals[contact] = far
      .split(/[+&]/)
      .filter((name) => !NOWHERE.test(name))
      .map(contactOf);
  }
  return arrivals;
}
