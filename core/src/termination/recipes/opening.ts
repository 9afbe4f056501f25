import { isThreaded } from '../../connectors/connector-types.js';
import { EDGE } from '../assembly.js';
import { isFoil, isScreened, len, named, opened, says, type CardFigures, type RecipeStep } from './recipe.js';

/** Steps that open a cable, shared by most recipes. */
export const stripJacket: RecipeStep = {
  id: 'strip',
  verb: 'strip',
  title: (f) => `Strip ${len(f, f.connector.strip.jacketMm)} of jacket`,
  how: (f) =>
    f.cable.fillers.includes('pull cord')
      ? 'Score the jacket once around, bend it until it parts, and pull it off. To open it further, tear with the pull cord, not with the blade.'
      : 'Score the jacket once around, bend it until it parts, and pull it off. Do not cut through.',
  reason: 'A nicked conductor breaks later, behind the wall plate.',
  accept: 'No copper showing, no cut in any insulation.',
  reject: (f) =>
    `A nick means cutting the end off square and stripping anew${f.connector.parts.some(isThreaded) ? '; what is threaded stays on' : ''}.`,
  caution: 'Draw the wire under a still blade; cut away from the hand.',
  wrongTurns: (f) => [
    'A conductor is nicked: cut the end off square and start again.',
    f.cable.fillers.includes('pull cord')
      ? 'Stripped too short: tear the jacket back with the pull cord, do not cut again over the conductors.'
      : 'Stripped too short: score again further back, and bend it until it parts.',
  ],
  picture: 'strip',
  minutes: 0.5,
  tool: 'jacket stripper',
  girths: opened,
};

export const foldScreen: RecipeStep = {
  id: 'screen',
  verb: 'fold back',
  when: isScreened,
  title: (f) => (isFoil(f) ? 'Fold back the foil, keep the drain' : 'Fold back the braid'),
  how: (f) =>
    isFoil(f)
      ? 'Fold the foil back over the jacket, conducting side out, and lay the drain wire over it.'
      : 'Comb the braid out and fold it back over the jacket, all round.',
  reason: 'The screen works only where it meets metal all the way round.',
  accept: (f) =>
    isFoil(f)
      ? 'Bright side outward, drain whole and lying flat.'
      : 'Even all round, no strand standing forward.',
  reject: (f) =>
    isFoil(f)
      ? 'A torn foil or a lost drain leaves the screen open: strip further back.'
      : 'A bare side is a hole in the screen, and a strand in front a short: comb it again.',
  wrongTurns: (f) => (isFoil(f) ? ['Drain broken off: strip further back and bring out fresh drain.'] : []),
  picture: 'strip',
  minutes: 0.7,
  girths: (f) => [{ zone: EDGE, mm: f.cable.jacketMm + (isFoil(f) ? 0.6 : 1.2) }],
};

/** Screened cable on a connector without a shell, or bonded at the other end only. */
export const cutScreen: RecipeStep = {
  id: 'screen',
  verb: 'trim',
  when: (f) => f.cable.screened && !f.connector.screened,
  title: (f) => (f.cable.drain ? 'Cut back foil and drain' : 'Cut back the screen'),
  how: says(
    'Cut the screen flush with the jacket and wrap the edge with tape, so that nothing can touch a contact.',
  ),
  reason: 'A loose end of screen shorts what it touches; here there is nowhere to bond it.',
  accept: 'No metal beyond the jacket, edge taped.',
  reject: 'A strand left standing finds a contact: tape it down.',
  picture: 'strip',
  minutes: 0.5,
};

/** Pairs in foils of their own keep them until just before the contacts. */
export const pairFoils: RecipeStep = {
  id: 'pair-foils',
  verb: 'trim',
  when: (f) => f.cable.fillers.includes('pair foil'),
  title: says('Keep each pair in its foil, up to the last 13 mm'),
  how: says(
    'Unwind each pair’s foil back to 13 mm before its contacts and cut it round with scissors, not against the wire. Metal side in, turned so that no edge stands out.',
  ),
  reason:
    'The foils keep the pairs apart: taken off too far back, the link fails by crosstalk, with the map right.',
  accept: 'Foil to within 13 mm, no scrap of it near a contact.',
  reject: 'A scrap of foil at a contact shorts it: pull it off. Foil off too far: strip back.',
  picture: 'strip',
  minutes: 1.5,
};

/** What lies beside the conductors and is cut away, in words. */
const besides = (f: CardFigures): string[] =>
  f.cable.fillers.filter((filler) => filler !== 'gel' && filler !== 'pair foil');
const trimmed = (f: CardFigures): string => named(besides(f));

export const trimCore: RecipeStep = {
  id: 'core',
  verb: 'trim',
  when: (f) => besides(f).length > 0 || f.cable.fillers.includes('gel'),
  title: (f) =>
    f.cable.fillers.includes('gel') ? 'Wipe off the gel, trim the rest' : `Trim the ${trimmed(f)}`,
  how: (f) =>
    f.cable.fillers.includes('gel')
      ? `Wipe the gel off with a dry cloth, then cut the ${trimmed(f)} flush with the jacket.`
      : f.cable.outdoor && f.cable.fillers.includes('separator')
        ? `Cut the ${trimmed(f)} below the jacket’s edge: bend the pairs aside and snip deep.`
        : `Cut the ${trimmed(f)} flush with the jacket.`,
  reason: 'Anything left pushes the jacket out of the connector.',
  accept: 'Only the conductors stand out.',
  reject: (f) =>
    f.connector.group === 'modular plug'
      ? 'A filler beyond the jacket keeps the bar from closing on it: trim again.'
      : 'A filler beyond the jacket keeps the connector from closing on it: trim again.',
  caution: 'Clipped ends fly: eyes away, point the cut down.',
  picture: 'strip',
  minutes: 0.4,
  tool: 'side cutters',
};
