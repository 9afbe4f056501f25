import { judgeTouches, type MadeTouch } from './judge-touches.js';
import { placeWords, type AdapterDesign, type InlinePart } from './design.js';
import { proofList, wouldBeep, type ProofTouch } from './proof-list.js';
import { soundLead } from './explain-proof.js';
import { workUp, type WorkedUpAdapter } from './work-up.js';

/** What a part is, in words. */
export const partWords = ({ kind, words, ohm, cells }: InlinePart): string =>
  [
    kind,
    ohm === undefined ? '' : `${ohm} ohm`,
    cells ? `${cells.count} cells of ${cells.freshV} V, ${cells.endV} V at their end` : '',
    words,
  ]
    .filter((each) => each !== '')
    .join(', ');

/** Everything that proves a built lead, in the order in which it is done. */
export interface BuildProof {
  touches: ProofTouch[];
  /** Parts to be metered, once fitted. */
  parts: string[];
  /** Polarity and voltage, before the device is connected. */
  supplies: string[];
  /** What the device has to do then. */
  functions: string[];
}

/** The proof of a design's lead: touches first, then parts, then supplies, then what the device does. */
export function buildProof(design: AdapterDesign, worked: WorkedUpAdapter = workUp(design)): BuildProof {
  const grounds = worked.rows.filter(({ net }) => net.pins.some(({ pin }) => pin.kind === 'ground'));
  return {
    touches: worked.proof,
    parts: worked.couplings.map(
      ({ from, to, parts }) =>
        `${placeWords(from)} ${from.pin.signal} to ${placeWords(to)} ${to.pin.signal}: ${parts.map(partWords).join(', then ')}.`,
    ),
    supplies: worked.rows.flatMap(({ net }) => {
      const sources = net.pins.filter(({ pin }) => pin.kind === 'supply-out');
      const [source] = sources;
      const far = net.pins.find(({ end }) => end !== source?.end);
      if (!source || !far) return [];
      const minus = grounds.flatMap((row) => row.net.pins).find(({ end }) => end === far.end);
      const { volts } = source.pin;
      const gives =
        volts === null
          ? 'its voltage'
          : volts[0] === volts[1]
            ? `${volts[0]} V`
            : `${volts[0]} to ${volts[1]} V`;
      return [
        `${placeWords(far)} against ${minus ? placeWords(minus) : 'ground'}: ${gives}, plus on ${placeWords(far)}, with ${source.end} plugged in and ${far.end} not.`,
      ];
    }),
    functions: [...(design.functionTest ?? [])],
  };
}

/** What was heard and seen of a built lead; null where it was not done. */
export interface BuildHeard {
  beeped: readonly (boolean | null)[];
  parts: readonly (boolean | null)[];
  supplies: readonly (boolean | null)[];
  functions: readonly (boolean | null)[];
  /** The touches as they were made, by whichever list; then `beeped` is empty. */
  touched?: readonly MadeTouch[] | undefined;
}

/** Answers that do not belong to a design's proof. */
export class BadAnswers extends Error {}

/**
 * Whether a built lead is proved: every answer there and right. One wrong answer fails it, whatever
 * is still to be done.
 *
 * @throws BadAnswers where there are more or fewer answers than the proof asks for, or a contact that the lead does not have
 */
export function judgeBuild(design: AdapterDesign, heard: BuildHeard): 'proved' | 'failed' | 'unfinished' {
  const worked = workUp(design);
  const proof = buildProof(design, worked);
  const { touched } = heard;
  const sizes: readonly [string, readonly unknown[], readonly unknown[]][] = [
    ['touches', heard.beeped, touched ? [] : proof.touches],
    ['parts', heard.parts, proof.parts],
    ['supplies', heard.supplies, proof.supplies],
    ['functions', heard.functions, proof.functions],
  ];
  for (const [name, got, wanted] of sizes)
    if (got.length !== wanted.length)
      throw new BadAnswers(
        `There are ${got.length} answers for ${wanted.length} ${name} of this version’s proof.`,
      );
  const byTouches = touched ? judgedTouches(worked, touched) : 'proved';
  if (byTouches === 'failed') return 'failed';
  const rights = [
    ...heard.beeped.map((beeped, n) =>
      beeped === null ? null : beeped === (proof.touches[n]?.should === 'beep'),
    ),
    ...heard.parts,
    ...heard.supplies,
    ...heard.functions,
  ];
  if (rights.includes(false)) return 'failed';
  return rights.includes(null) ? 'unfinished' : byTouches;
}

function judgedTouches(
  { nets }: WorkedUpAdapter,
  touched: readonly MadeTouch[],
): ReturnType<typeof judgeTouches> {
  try {
    return judgeTouches(nets, touched);
  } catch (error) {
    throw error instanceof RangeError ? new BadAnswers(error.message) : error;
  }
}

/** The answers of a lead that is as it was meant. */
export function soundAnswers(design: AdapterDesign): BuildHeard {
  const worked = workUp(design);
  const proof = buildProof(design, worked);
  const sound = soundLead(worked.nets);
  return {
    beeped: proofList(worked.nets).map((touch) => wouldBeep(touch, sound)),
    parts: proof.parts.map(() => true),
    supplies: proof.supplies.map(() => true),
    functions: proof.functions.map(() => true),
  };
}
