import { SCREEN_CONTACT, type ContactId } from '../cabling/schemes.js';
import type { ConductorId } from '../cabling/conductors.js';
import { intendedLink, type LinkExpectation } from './expectation.js';
import { believe, placesToMend, type Hypothesis } from './belief.js';
import type { Practice } from './practice.js';
import { isMapReading, isUnread, type ColourReading, type Reading } from './readings.js';
import { readingsThatHold, type Evidence } from './timeline.js';
import type { LinkEnd } from './true-link.js';

/** A conductor's way from its row in the cable to a contact at one end. */
export interface EndLine {
  contact: ContactId;
  conductor: ConductorId;
  /** False where it lies on the contact without reaching it. */
  seated: boolean;
}

/** One end of a link as the evidence lets it be drawn. */
export interface EndPicture {
  /** Share of belief that something is wrong at this end; 0 when nothing is. */
  belief: number;
  /** Whether the wiring drawn holds nearly all the belief; otherwise it is only the likeliest. */
  sure: boolean;
  /** The likeliest wiring of this end, should it be wrong; the intended wiring otherwise. */
  lines: readonly EndLine[];
  /** Contacts whose conductor is in doubt. */
  doubtful: ReadonlySet<ContactId>;
  /** Colours a person has seen here, which settle it. */
  seen: Readonly<Record<ContactId, ConductorId | null>> | null;
}

export interface CablePicture {
  belief: number;
  breaks: readonly { conductor: ConductorId; atM: number | null }[];
  joins: readonly { conductors: readonly [ConductorId, ConductorId]; atM: number | null }[];
  disturbances: readonly { atM: number }[];
}

/**
 * What to draw of a link: rows of conductors in the order intended at the near end, each end with
 * its belief, and what happened along the cable. A crossing of unknown place appears at both ends
 * with the belief in each; a break of unknown place has `atM` null and may not be drawn at a
 * distance.
 */
export interface LinkPicture {
  rows: readonly { conductor: ConductorId; contact: ContactId }[];
  near: EndPicture;
  far: EndPicture;
  cable: CablePicture;
  /** Contact pairs a reading found split. */
  splits: readonly string[];
}

export function pictureLink(
  expected: LinkExpectation,
  evidence: readonly Evidence[],
  wrong: boolean,
  practice?: Practice,
): LinkPicture {
  const hypotheses = wrong ? believe(expected, evidence, practice).hypotheses : [];
  return pictureOf(expected, readingsThatHold(evidence), hypotheses);
}

/** What a link would look like if one explanation of it were true. */
export function pictureExplanation(expected: LinkExpectation, hypothesis: Hypothesis): LinkPicture {
  return pictureOf(expected, [], [hypothesis]);
}

/** A link as readings and belief let it be drawn. */
export function pictureOf(
  expected: LinkExpectation,
  readings: readonly Reading[],
  hypotheses: readonly Hypothesis[],
): LinkPicture {
  const intended = intendedLink(expected);
  const total = hypotheses.reduce((sum, h) => sum + h.weight, 0);
  const rows = Object.entries(intended.near).flatMap(([contact, conductor]) =>
    conductor === null ? [] : [{ conductor, contact }],
  );
  return {
    rows: rows.sort((x, y) => Number(x.contact === SCREEN_CONTACT) - Number(y.contact === SCREEN_CONTACT)),
    near: pictureEnd('near', intended.near, hypotheses, total, readings),
    far: pictureEnd('far', intended.far, hypotheses, total, readings),
    cable: pictureCable(hypotheses, total),
    splits: [...new Set(readings.filter(isMapReading).flatMap((reading) => reading.splits ?? []))],
  };
}

type Wiring = Readonly<Record<ContactId, ConductorId | null>>;

function pictureEnd(
  end: LinkEnd,
  intended: Wiring,
  hypotheses: readonly Hypothesis[],
  total: number,
  evidence: readonly Reading[],
): EndPicture {
  const here = hypotheses.filter((h) => placesToMend(h).includes(end));
  const likeliest = here[0];
  const wiring = likeliest ? likeliest.link[end] : intended;
  const unseated = new Set(likeliest?.link.unseated.filter((u) => u.end === end).map((u) => u.contact));
  const share = (some: readonly Hypothesis[]): number =>
    total > 0 ? some.reduce((sum, h) => sum + h.weight, 0) / total : 0;
  const alike = here.filter((h) => sameWiring(h.link[end], wiring));
  const doubtful = Object.keys(intended).filter(
    (contact) => share(here.filter((h) => isWrongAt(h, end, contact, intended))) >= WORTH_DRAWING,
  );
  const look = evidence.filter((r) => r.instrument === 'eye').findLast((r) => r.end === end);
  return {
    belief: share(here),
    sure: share(alike) >= SURE,
    lines: Object.entries(wiring).flatMap(([contact, conductor]) =>
      conductor === null ? [] : [{ contact, conductor, seated: !unseated.has(contact) }],
    ),
    doubtful: new Set(doubtful),
    seen: look ? readOf(look) : null,
  };
}

/** What a look told, without the contacts that could not be read. */
const readOf = (look: ColourReading): Wiring =>
  Object.fromEntries(Object.entries(look.colours).filter(([contact]) => !isUnread(look, contact)));

/** Below this share of belief a contact is not marked. */
const WORTH_DRAWING = 0.03;
/** From this share on a wiring is drawn as a fact. */
const SURE = 0.95;

const sameWiring = (a: Wiring, b: Wiring): boolean =>
  Object.keys(a).every((contact) => a[contact] === b[contact]);

function isWrongAt(hypothesis: Hypothesis, end: LinkEnd, contact: ContactId, intended: Wiring): boolean {
  const { link } = hypothesis;
  return (
    link[end][contact] !== intended[contact] ||
    link.unseated.some((u) => u.end === end && u.contact === contact) ||
    link.bridges.some((b) => b.end === end && b.contacts.includes(contact)) ||
    [...link.loose, ...link.poor].some(
      ({ place }) => 'end' in place && place.end === end && place.contact === contact,
    )
  );
}

function pictureCable(hypotheses: readonly Hypothesis[], total: number): CablePicture {
  const here = hypotheses.filter((h) => placesToMend(h).includes('cable'));
  const likeliest = here[0];
  const place = likeliest?.faults.find((fault) => fault.end === 'cable')?.distanceM ?? null;
  return {
    belief: total > 0 ? here.reduce((sum, h) => sum + h.weight, 0) / total : 0,
    breaks: likeliest?.link.breaks.map(({ conductor }) => ({ conductor, atM: place })) ?? [],
    joins: likeliest?.link.joins.map(({ conductors }) => ({ conductors, atM: place })) ?? [],
    disturbances: place === null ? [] : (likeliest?.link.disturbances.map(() => ({ atM: place })) ?? []),
  };
}
