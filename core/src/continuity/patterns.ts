import { believe } from './belief.js';
import { faultsAtEnd } from './slips/catalogue.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { frameOf } from './frame.js';
import { isMapReading, type Reading } from './readings.js';
import type { SlipKind } from './practice.js';
import type { LinkEnd } from './true-link.js';

/** A link of a job as patterns see it. */
export interface PatternLink {
  id: string;
  label: string;
  /** Its place at the hub: panel and port. */
  panel: string;
  port: number;
  expected: LinkExpectation;
  /** Readings that hold now. */
  readings: readonly Reading[];
  wrong: boolean;
}

/** One cause that explains several links at once. */
export interface Pattern {
  kind: 'same-slip' | 'panel-one-off' | 'labels-exchanged' | 'remotes-elsewhere';
  links: readonly string[];
  end: LinkEnd | null;
  probability: number;
  words: string;
  action: string;
}

/** Chance that one hand does all ports of a hub, or all far ends, wrong in one way. */
const COMMON_CAUSE: Readonly<Record<LinkEnd, number>> = { near: 0.01, far: 0.005 };
/** Chance that labels or ports are exchanged or shifted on a panel. */
const LABELS_WRONG = 0.02;
/** Slips that a hand repeats along a panel. */
const REPEATED: readonly SlipKind[] = [
  'other-scheme',
  'pair-by-pair',
  'mirror',
  'transposed-pairs',
  'reversed-pair',
];
const FEWEST = 2;

/**
 * What the links of a hub have in common: a slip made at every port, a panel punched one port off,
 * two labels exchanged. Each is weighed against as many separate slips (Bayes factor of the joint
 * cause, from the belief about each link), and told once.
 */
export function findPatterns(links: readonly PatternLink[]): Pattern[] {
  const found = [...panelsOf(links).values()].flatMap((panel) => [
    ...labelPatterns(panel),
    ...sameSlip(panel),
  ]);
  const best = new Map<string, Pattern>();
  for (const pattern of found.sort(
    (a, b) => b.links.length * b.probability - a.links.length * a.probability,
  )) {
    // One explanation per set of links: the likelier end wins, the other is said in its words.
    const key = [...pattern.links].sort().join();
    if (!best.has(key)) best.set(key, pattern);
  }
  return [...best.values()].filter((pattern) => pattern.probability > 0.5);
}

function panelsOf(links: readonly PatternLink[]): Map<string, PatternLink[]> {
  const panels = new Map<string, PatternLink[]>();
  for (const link of links) panels.set(link.panel, [...(panels.get(link.panel) ?? []), link]);
  for (const panel of panels.values()) panel.sort((a, b) => a.port - b.port);
  return panels;
}

/** Belief in one slip at one end of a link, beside how often it is met. */
interface SlipBelief {
  words: string;
  share: number;
  rate: number;
}

/** The same slip on several links of a panel that are wrong: at the hub, or at all the far ends. */
function sameSlip(panel: readonly PatternLink[]): Pattern[] {
  const wrong = panel.filter((link) => link.wrong && link.readings.length > 0);
  if (wrong.length < FEWEST) return [];
  const slips = new Map<string, { link: PatternLink; at: Record<LinkEnd, SlipBelief> }[]>();
  for (const link of wrong) {
    for (const [slip, at] of slipsOf(link))
      if (at.near.share + at.far.share > 0.1) slips.set(slip, [...(slips.get(slip) ?? []), { link, at }]);
  }
  return [...slips]
    .filter(([, members]) => members.length >= FEWEST)
    .map(([, members]): Pattern => {
      // How likely the readings are if one hand did it at every one, against each by itself.
      const common = (end: LinkEnd): number =>
        Math.log(COMMON_CAUSE[end]) +
        members.reduce((sum, { at }) => sum + Math.log((at[end].share + 1e-9) / at[end].rate), 0);
      const apart = members.reduce((sum, { at }) => sum + Math.log(at.near.share + at.far.share), 0);
      const [near, far] = [common('near'), common('far')];
      const top = Math.max(near, far, apart);
      const total = [near, far, apart].reduce((sum, x) => sum + Math.exp(x - top), 0);
      const end: LinkEnd = near >= far ? 'near' : 'far';
      const said = members[0]?.at[end].words ?? '';
      const labels = members.map((m) => m.link.label).join(', ');
      return {
        kind: 'same-slip',
        links: members.map((m) => m.link.id),
        end,
        probability: 1 - Math.exp(apart - top) / total,
        words: `${labels}: the same on each, ${said}. One hand doing it every time is likelier than ${members.length} separate slips.`,
        action: `Look at ${members[0]?.link.label} at the ${end === 'near' ? 'hub' : 'far end'} first: what is found there holds for the others`,
      };
    });
}

/** Slips that a hand repeats, with the belief in each at both ends of a link. */
function slipsOf(link: PatternLink): Map<string, Record<LinkEnd, SlipBelief>> {
  const frame = frameOf(intendedLink(link.expected));
  const slips = new Map<string, Record<LinkEnd, SlipBelief>>();
  for (const end of ['near', 'far'] as const) {
    for (const fault of faultsAtEnd(link.expected, frame, end)) {
      if (!REPEATED.includes(fault.slip)) continue;
      const blank = { near: NEVER, far: NEVER };
      const at = slips.get(fault.twin) ?? blank;
      slips.set(fault.twin, { ...at, [end]: { words: fault.slipWords, share: 0, rate: fault.rate } });
    }
  }
  for (const hypothesis of believe(link.expected, link.readings).hypotheses) {
    for (const fault of hypothesis.faults) {
      const at = slips.get(fault.twin);
      if (at && fault.end !== 'cable') at[fault.end].share += hypothesis.weight;
    }
  }
  return slips;
}

const NEVER: SlipBelief = { words: '', share: 0, rate: 1 };

/** Ports whose remotes answer at other ports. */
function labelPatterns(panel: readonly PatternLink[]): Pattern[] {
  const portOf = new Map(panel.map((link) => [link.label, link.port]));
  const answered = panel.flatMap((link) => {
    const remote = link.readings.filter(isMapReading).findLast((r) => r.remote !== undefined)?.remote;
    const port = remote === undefined ? undefined : portOf.get(remote);
    return port === undefined || remote === link.label
      ? []
      : [{ link, remote: remote as string, by: port - link.port }];
  });
  const patterns: Pattern[] = [];
  const used = new Set<string>();
  for (const a of answered) {
    const b = answered.find((other) => other.link.label === a.remote && other.remote === a.link.label);
    if (!b || used.has(a.link.id)) continue;
    used.add(a.link.id).add(b.link.id);
    patterns.push({
      kind: 'labels-exchanged',
      links: [a.link.id, b.link.id],
      end: null,
      // Two cables exchanged by chance and two labels exchanged give one reading and one remedy.
      probability: 0.97,
      words: `${a.link.label} and ${b.link.label} answer for each other: their labels, or their ports, are exchanged.`,
      action: `Exchange the labels of ${a.link.label} and ${b.link.label} at one end, and test both again`,
    });
  }
  const rest = answered.filter((one) => !used.has(one.link.id));
  for (const by of [1, -1]) {
    const shifted = rest.filter((one) => one.by === by);
    if (shifted.length < FEWEST) continue;
    const chance = Math.log(LABELS_WRONG) - (shifted.length - 1) * Math.log(LABELS_WRONG / panel.length);
    patterns.push({
      kind: 'panel-one-off',
      links: shifted.map((one) => one.link.id),
      end: 'near',
      probability: 1 / (1 + Math.exp(-chance)),
      words: `${shifted.map((one) => one.link.label).join(', ')}: each answers at the next port ${by > 0 ? 'up' : 'down'}. The panel is punched, or labelled, one port off from ${shifted[0]?.link.label} on.`,
      action: `Compare the cable's own mark with the label at ${shifted[0]?.link.label}: relabel the row, or punch it one port over`,
    });
  }
  return patterns;
}

/**
 * Whether a reading taken for one link is likely another's: its remote says so, or the link had
 * passed before and nothing now arrives.
 */
export function wrongLabel(label: string, reading: Reading, passedBefore: boolean): string | null {
  if (!isMapReading(reading)) return null;
  if (reading.remote !== undefined && reading.remote !== label)
    return `The remote that answers hangs at ${reading.remote}, not at ${label}: read the label again.`;
  const silent = Object.values(reading.arrivals).every((reached) => reached.length === 0);
  if (!silent) return null;
  return passedBefore
    ? `${label} passed before and now nothing arrives: is this ${label}, and is the remote there?`
    : `Nothing arrives: is the remote at ${label}?`;
}
