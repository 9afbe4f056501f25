import { list } from './compare-map.js';
import type { Decision } from './decide.js';
import type { Exception } from './diagnose.js';
import type { LengthAstray } from './length-astray.js';
import type { MendPlace } from './repair.js';

export const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** The exception a pass rests on, as it stands wherever the pass is shown. */
export function exceptionWords({ reason, shown, cleanReadings }: Exception): string {
  return `An earlier reading showed a fault (${shown}); ${cleanReadings} clean readings since stand against it. Reason given: ${reason}.`;
}

/** What to do about readings that disagree. */
export function disagreeDetail(loose: number, enough: boolean): string {
  const opens = loose > 0.05 ? ` By ${percent(loose)} something opens and closes: wiggle both ends.` : '';
  const why = enough
    ? ' Enough clean readings stand against it: say why the other was wrong, and it passes by exception.'
    : '';
  return `Nothing was done to the link between them, so one is not of this link as it is, or something moves.${opens} Read again, and check port, remote and label.${why}`;
}

const PLACES: Readonly<Record<MendPlace, string>> = {
  near: 'the near end',
  far: 'the far end',
  cable: 'the cable',
  unplug: 'equipment still connected',
  outlet: 'the outlet',
  plan: "the plan's length",
  unknown: 'something that no explanation of ours fits',
};

/** The decision as a sentence. */
export function failDetail({ act, repair, sure, share }: Decision): string {
  if (act === 'look')
    return sure.length > 0
      ? `All the evidence points to ${list(sure.map((p) => PLACES[p]))}; whether there is more, the next look tells for less than the work.`
      : 'The readings so far do not say where: do not cut anything yet.';
  if (act === 'read-again' || !repair)
    return 'No explanation of ours accounts for all of it. Look at both ends before cutting anything.';
  const [place] = repair.places;
  if (place === 'unplug')
    return 'This looks like equipment still connected: its transformers read as shorts within pairs.';
  if (place === 'outlet') return 'Most likely the remote hangs elsewhere, or nowhere.';
  if (sure.length > 0) return `All the evidence points to ${list(sure.map((p) => PLACES[p]))}.`;
  return `Most likely ${PLACES[place as MendPlace]} (${percent(share)}); no look at hand costs less than trying it. Read again after it.`;
}

/** Words as a sentence begins. */
export function capitalise(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

const TOLD_AT_ONCE = 6;

/** What readings show, on one line; of very many findings the first ones, and how many more there are. */
export function shownInWords(findings: readonly { words: string }[]): string {
  const told = findings.slice(0, TOLD_AT_ONCE).map(({ words }) => words);
  const more = findings.length - told.length;
  return [...told, ...(more > 0 ? [`and ${more} more`] : [])].join('; ');
}

/** Two lengths that cannot both be this cable's. */
export function lengthAstrayInWords({ against, readM, otherM }: LengthAstray): string {
  return against === 'before'
    ? `One cable of ${readM.toFixed(1)} m and of ${otherM.toFixed(1)} m`
    : `Every pair ends at ${readM.toFixed(1)} m where the plan has ${otherM.toFixed(1)} m`;
}
