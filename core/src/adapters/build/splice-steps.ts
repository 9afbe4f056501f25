import { SCREEN } from '../../cabling/conductors.js';
import type { Wire } from '../conductor-choice.js';
import { placeWords, type AdapterDesign, type PlacedPin } from '../design.js';
import type { WorkedUpAdapter } from '../work-up.js';
import type { BuildStep } from './step.js';

/**
 * Two moulded halves: nothing is done at a contact, wire is spliced to wire, sleeves first. Empty
 * where a contact that is joined has no wire of its own colour.
 */
export function spliceSteps(design: AdapterDesign, { rows }: WorkedUpAdapter): BuildStep[] {
  const [near, far] = design.ends;
  if (!near || !far || design.ends.length > 2) return [];
  const pairs = rows.map(({ net }) => {
    const at = (id: string): PlacedPin[] => net.pins.filter(({ end, pin }) => end === id && pin.colour);
    return { net, ones: at(near.id), others: at(far.id) };
  });
  if (pairs.some(({ net, ones, others }) => ones.length + others.length < net.pins.length)) return [];
  const made = pairs.filter(({ net }) => net.pins.length > 1);
  const crossing = made.filter(({ ones, others }) => ones.length > 0 && others.length > 0);
  if (crossing.length === 0) return [];
  const blank = { contact: null, wire: null, farColour: null };
  const joints = made.map(({ net, ones, others }): BuildStep => {
    // Wires of one half that are joined to each other are spliced like any two.
    const wires = [...ones, ...others];
    const [one, other] = [wires[0], others[0] ?? wires[1]];
    const named = (some: readonly PlacedPin[]): string => some.map(placeWords).join(' to ');
    return {
      ...blank,
      id: `splice ${named(wires)}`,
      kind: 'joint',
      end: one?.end ?? null,
      contact: one?.contact ?? null,
      words: `${net.name}: ${named(wires)}`,
      colour: one?.pin.colour ?? null,
      farColour: other?.pin.colour ?? null,
    };
  });
  const free = design.ends.flatMap(({ id, pins }) =>
    pins.flatMap(({ contact, colour }): BuildStep[] =>
      colour &&
      !pairs.some(({ ones, others }) =>
        [...ones, ...others].some((pin) => pin.end === id && pin.contact === contact),
      )
        ? [
            {
              ...blank,
              id: `keep ${id} ${contact}`,
              kind: 'keep',
              end: id,
              words:
                design.spares === 'cut'
                  ? `Cut the wire of ${id} ${contact} off, flush with the jacket.`
                  : `Insulate the wire of ${id} ${contact} and fold it back.`,
              colour,
            },
          ]
        : [],
    ),
  );
  return [
    {
      ...blank,
      id: 'thread outer',
      kind: 'thread',
      end: null,
      words: `Thread the outer sleeve over one half, and a small one over a wire of each of ${made.length} joints.`,
      colour: null,
    },
    ...joints,
    ...throughScreen(design),
    ...free,
  ];
}

const listensOrShows = ({ ends }: AdapterDesign): boolean =>
  ends.some(({ pins }) => pins.some(({ kind }) => kind === 'audio' || kind === 'video'));
/** A microphone or video pair keeps its screen, tied to ground at one end. */
export const keepsItsScreen = (design: AdapterDesign, wire: Wire | undefined): boolean =>
  wire?.colour === SCREEN && listensOrShows(design);

export function screenWords({ ends }: AdapterDesign, wire: string): string {
  const tied = ends.flatMap(({ id, pins }) => {
    const pin = pins.find(({ kind }) => kind === 'shield') ?? pins.find(({ kind }) => kind === 'ground');
    return pin ? [{ id, words: `${id} ${pin.contact} ${pin.signal}` }] : [];
  })[0];
  const others = ends.filter(({ id }) => id !== tied?.id).map(({ id }) => id);
  return tied
    ? `Bring ${wire}, sleeved, to ${tied.words}; at ${others.join(', ')} cut it back and insulate it: grounded at one end only.`
    : `Insulate conductor ${wire} at both ends and fold it back.`;
}

/** Screens of two moulded halves are joined through, like to like. */
function throughScreen(design: AdapterDesign): BuildStep[] {
  const both = design.ends.every(({ pins }) => pins.some(({ kind }) => kind === 'shield'));
  if (!both || !listensOrShows(design)) return [];
  return [
    {
      id: 'splice screens',
      kind: 'joint',
      words:
        'Join screen to screen over the finished joints, apart from every wire: the pair keeps its screen.',
      end: null,
      contact: null,
      wire: null,
      colour: null,
      farColour: null,
    },
  ];
}
