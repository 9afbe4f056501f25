import type { PowerFeed } from './remote-power.js';

/** What a planned link is held against. */
export type CheckId =
  | 'permanent-link'
  | 'channel'
  | 'loss'
  | 'reach'
  | 'category'
  | 'delay'
  | 'skew'
  | 'loop'
  | 'power'
  | 'heat'
  | 'contact'
  | 'drop'
  | 'level'
  | 'telephone-loop'
  | 'bus'
  | 'outdoor-jacket'
  | 'jacket-rating'
  | 'between-buildings'
  | 'duct'
  | 'mains';

export type FindingQuantity =
  | 'length'
  | 'thickness'
  | 'loss'
  | 'level'
  | 'resistance'
  | 'power'
  | 'temperature'
  | 'current'
  | 'voltage'
  | 'share'
  | 'time';

/** Fails: it will not do. Close: under a twentieth to spare. Look: what nobody told, or a local code decides. */
export type FindingVerdict = 'fails' | 'look' | 'close' | 'fits';

/** What would mend a finding; figures in the finding's own quantity. */
export type Cure =
  | { cure: 'shorten'; toM: number }
  | { cure: 'other-cable'; cableId: string; spare: number }
  | { cure: 'other-feed'; feed: PowerFeed; spare: number }
  | { cure: 'cooler'; stretch: string; temperatureC: number; spare: number }
  | { cure: 'more-wires'; wires: number; spare: number }
  | { cure: 'amplify'; db: number }
  | { cure: 'attenuate'; db: number }
  | { cure: 'slower'; bitPerS: number }
  | { cure: 'outdoor-cable' }
  | { cure: 'wider-duct'; toMm: number }
  | { cure: 'move-apart'; toMm: number };

/** One check of a planned link: what it comes to, what it may be, what is to spare, by whose word, and what would cure it. */
export interface PlanFinding {
  check: CheckId;
  verdict: FindingVerdict;
  quantity: FindingQuantity;
  /** Null where it cannot be worked out: the wire does not carry it at all, or nobody told. */
  is: number | null;
  limit: number | null;
  /** What is to spare in the same quantity; below nought it is short by so much. */
  spare: number | null;
  /** What is to spare as a share of the limit: by it findings are put in order. */
  margin: number | null;
  /** Where on the link or its band, as far as there is such a place. */
  at?: { mhz?: number; stretch?: string; temperatureC?: number };
  source: string;
  cures: Cure[];
}

/** Under this share of its limit a link is close to it. */
const CLOSE = 0.05;

/** A finding from what it comes to and what it may be; `least` where the limit is one from below. */
export function held(
  given: Pick<PlanFinding, 'check' | 'quantity' | 'source'> & {
    is: number;
    limit: number;
    least?: boolean;
    at?: PlanFinding['at'];
    cures?: () => Cure[];
  },
): PlanFinding {
  const { check, quantity, source, is, limit, least, at, cures } = given;
  const spare = least ? is - limit : limit - is;
  const margin = spare / Math.max(Math.abs(limit), 1e-9);
  const verdict = spare < 0 ? 'fails' : margin < CLOSE ? 'close' : 'fits';
  return {
    check,
    verdict,
    quantity,
    is,
    limit,
    spare,
    margin,
    ...(at ? { at } : {}),
    source,
    cures: verdict === 'fails' ? (cures?.() ?? []) : [],
  };
}

/** What has to be looked at, because nobody told it or because a local code decides. */
export const toLookAt = (
  check: CheckId,
  source: string,
  more: { cures?: Cure[]; at?: NonNullable<PlanFinding['at']> } = {},
): PlanFinding => ({
  check,
  verdict: 'look',
  quantity: 'share',
  is: null,
  limit: null,
  spare: null,
  margin: null,
  source,
  cures: more.cures ?? [],
  ...(more.at ? { at: more.at } : {}),
});

const RANK: Readonly<Record<FindingVerdict, number>> = { fails: 0, close: 1, fits: 2, look: 3 };

/** Where these fit they say no more than the length does. */
const FOLLOW_LENGTH: readonly CheckId[] = ['channel', 'delay', 'skew', 'loop'];

/** What fails first, then what is close and what fits, each by what is left; last what is to be looked at. */
export const worstFindingsFirst = (findings: readonly PlanFinding[]): PlanFinding[] =>
  [...findings].sort((a, b) => rank(a) - rank(b) || (a.margin ?? 0) - (b.margin ?? 0));

const rank = ({ verdict, check }: PlanFinding): number =>
  RANK[verdict] + (verdict === 'fits' && FOLLOW_LENGTH.includes(check) ? 0.5 : 0);
