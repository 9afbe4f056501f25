import type { ContactId } from '../../cabling/schemes.js';

/** One thing to do with the hands; ids stay the same while the design does. */
export interface BuildStep {
  id: string;
  kind: 'thread' | 'joint' | 'bridge' | 'part' | 'keep';
  words: string;
  /** Where it is done; null for what belongs to no one end. */
  end: string | null;
  contact: ContactId | null;
  wire: string | null;
  /** Insulation of the conductor there; null where it has none or none is chosen. */
  colour: string | null;
  /** And at the other end of it, where that half differs. */
  farColour: string | null;
}
