import type { Belief, Hypothesis } from '../belief.js';
import type { PhysicalFault } from '../faults.js';
import type { Frame } from '../frame.js';
import { fromState, LinkState } from '../link-state.js';
import { fewestThatTell } from '../telling.js';
import type { Era } from '../timeline.js';
import type { TrueLink } from '../true-link.js';
import { NEGLIGIBLE, type Search } from './search.js';
import type { Combination, Session, Suspect } from './weighing.js';
import { logOfLink, mixed } from './witness.js';

/** The most explanations kept. */
const KEPT = 2000;
/** The heaviest hypotheses that say which readings are astray. */
const ASKED = 80;

interface Searched {
  intended: TrueLink;
  frame: Frame;
  base: LinkState;
  now: Era;
  sessions: readonly Session[];
  search: Search;
  unknown: PhysicalFault;
}

interface Merged {
  state: LinkState;
  faults: readonly PhysicalFault[];
  logTop: number;
  weight: number;
  fit: number;
}

/** Belief from what a search found: ways that make one link are one explanation, its likeliest telling stays. */
export function conclude({ intended, frame, base, now, sessions, search, unknown }: Searched): Belief {
  const current = sessions[sessions.length - 1] as Session;
  const merged = new Map<string, Merged>();
  const past = new Map<string, { fault: PhysicalFault; weight: number }>();
  const logUnknown =
    Math.log(unknown.rate) +
    sessions.flatMap((s) => s.witnesses).reduce((sum, w) => sum + mixed(w, w.logUnknown), 0);
  const heaviest = Math.max(search.heaviest, logUnknown);
  const merge = (key: string, one: Merged): void => {
    const known = merged.get(key);
    if (!known) merged.set(key, one);
    else {
      const weight = known.weight + one.weight;
      merged.set(key, { ...(one.logTop > known.logTop ? { ...one, state: known.state } : known), weight });
    }
  };
  // What was found before a heavier one is negligible beside it as what was found after is.
  let skipped = search.skipped * Math.exp(search.weighing.best - heaviest);
  for (const { suspects: all, logWeight, logLikelihood } of search.found) {
    if (logWeight < heaviest + NEGLIGIBLE) {
      skipped += Math.exp(logWeight - heaviest);
      continue;
    }
    const suspects = telling(search, { suspects: all, logWeight, logLikelihood });
    const found = search.weighing.stateIn(current.slots, suspects);
    const weight = Math.exp(logWeight - heaviest);
    for (const { fault, slot } of suspects.flatMap(({ parts }) => parts)) {
      if (current.slots.has(slot)) continue;
      const known = past.get(fault.id);
      if (known) known.weight += weight;
      else past.set(fault.id, { fault, weight });
    }
    const state = found ?? base;
    const key = state.key();
    merge(key, {
      state: found && !merged.has(key) ? new LinkState(frame).become(state) : state,
      faults: suspects.flatMap(({ parts }) =>
        parts.filter((p) => current.slots.has(p.slot)).map((p) => p.fault),
      ),
      logTop: logWeight,
      weight,
      fit: logLikelihood - search.weighing.best,
    });
  }
  if (logUnknown > heaviest + NEGLIGIBLE)
    merge('unexplained', {
      state: base,
      faults: [unknown],
      logTop: logUnknown,
      weight: Math.exp(logUnknown - heaviest),
      fit: logUnknown - Math.log(unknown.rate) - search.weighing.best,
    });
  const ranked = [...merged.values()].sort((a, b) => b.weight - a.weight);
  const total = ranked.reduce((sum, h) => sum + h.weight, 0) + skipped;
  const hypotheses = ranked.slice(0, KEPT).map(({ state, faults, weight, fit }): Hypothesis => {
    let link: TrueLink | null = null;
    return {
      key: faults
        .map(({ id }) => id)
        .sort()
        .join('; '),
      faults,
      state,
      fit,
      weight: weight / total,
      get link() {
        return (link ??= fromState(intended, state));
      },
    };
  });
  const shareOf = (is: (h: Hypothesis) => boolean): number =>
    hypotheses.reduce((sum, h) => sum + (is(h) ? h.weight : 0), 0);
  return {
    frame,
    hypotheses,
    past: [...past.values()].map(({ fault, weight }) => ({ fault, weight: weight / total })),
    sound: shareOf(({ faults }) => faults.every(({ kind }) => kind === 'length')),
    unexplained: shareOf(({ faults }) => faults.some(({ kind }) => kind === 'unexplained')),
    witnesses: current.witnesses,
    stray: strays(now, current, hypotheses, unknown),
    discarded: Math.max(0, 1 - shareOf(() => true)),
  };
}

/** Belief, reading by reading, that it is of something else than this link as it is. */
function strays(
  now: Era,
  { witnesses }: Session,
  hypotheses: readonly Hypothesis[],
  unknown: PhysicalFault,
): Belief['stray'] {
  const asked = hypotheses.slice(0, ASKED);
  const total = asked.reduce((sum, h) => sum + h.weight, 0) || 1;
  return witnesses.map((witness, i) => ({
    reading: now.readings[i] as Era['readings'][number],
    share: asked.reduce((sum, { weight, state, faults }) => {
      const ofLink = faults.includes(unknown) ? witness.logUnknown : logOfLink(witness, state);
      return sum + (weight / total) * Math.exp(witness.logStray - mixed(witness, ofLink));
    }, 0),
  }));
}

/**
 * The suspects that the evidence says something about. One whose absence makes the evidence as
 * likely is no part of an explanation: it may be there as it may be on any link.
 */
function telling(search: Search, { suspects, logLikelihood }: Combination): readonly Suspect[] {
  return fewestThatTell(
    suspects,
    logLikelihood,
    (some) => {
      if (some.length === 0) return search.weighing.intactLog;
      return some.length === 1 ? (some[0] as Suspect).logLikelihood : search.weighing.evaluate(some);
    },
    (suspect) => suspect.logShare,
  );
}
