/** What a reflection comes from. */
export const EVENT_KINDS = [
  'open',
  'short',
  'series-resistance',
  'wet-or-shunt',
  'low-section',
  'high-section',
  'joint',
  'stub',
  'matched-end',
  'loaded-end',
  'ghost',
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** What a line ends in. */
export const END_KINDS: ReadonlySet<EventKind> = new Set(['open', 'short', 'matched-end', 'loaded-end']);

/** One echo with what its height says, before it is named. */
export interface Reflected {
  /** Round trip after the launch, samples. */
  delay: number;
  delayDeviation: number;
  /** Height at the tee as a share of the launch, loss taken back. */
  share: number;
  shareDeviation: number;
  /** What the way there and back took, nepers: by so much the height was made good. */
  lostNeper?: number;
  /** An end matched but for what loss adds to the line's impedance. */
  soft?: boolean;
}

/** An echo, or several that one thing makes, with its name. */
export interface Named extends Reflected {
  kind: EventKind;
  probability: number;
  /** Reflection coefficient where it is: share without what the way there and the source do to it. */
  reflection: number;
  /** Events (in the list's own order) between which a ghost goes to and fro; null for a real one. */
  ghostOf: [number, number] | null;
  /** Round trip through a section or a stub, samples; null for what has no length. */
  through: number | null;
  /** What else it could be, with its share of belief, likeliest first. */
  or?: readonly KindShare[];
}

/** A kind with its share of belief. */
export interface KindShare {
  kind: EventKind;
  probability: number;
}

/** What naming takes for granted. */
export interface Setting {
  /** Delay of the lead's far end, samples: a reflection there is the joint. */
  lead: number;
  /** Nearer than this two edges cannot be told apart, samples. */
  resolution: number;
  /** Launch and edge together, samples: nearer before an end a part of its own sign is the end's rounding. */
  deadZone: number;
}

/** Heights with which a kind is met, as a share of full: mean and deviation, or a range. */
const JOINT_DEVIATION = 0.045;
const END_DEVIATION = 0.07;
/** What the way took is known to this share of it: the more was lost, the less an end's height says. */
const LOSS_TAKEN_TO = 0.2;
/** A part in the way that lets nothing behind it be seen is rarer than an end. */
const LAST_PART = 0.5;
const LEAST_FAULT = 0.07;
const MOST_FAULT = 0.9;
/** Less than any joint sends back is the line's own unevenness. */
export const LEAST_REFLECTION = 0.008;
/** A ghost's height may be off what its makers give by this factor. */
const GHOST_FACTOR = 2.2;
/** Heights are known to this share, loss taken back. */
const HEIGHT_KNOWN_TO = 0.12;
/** How sure it is that a part just before an end is the end's own rounding. */
const ROUNDING = 0.6;
/** An end reflects at least so much. */
const TOTAL = 0.75;
/** A pair is what it comes nearest to, if within so many deviations. */
const MOST_OFF = 4;
const PART_LESS_LIKELY = 0.5;

/**
 * Names the echoes of a trace: takes ghosts out by their delay and height, joins the two edges of a
 * section and a stub's joint with its end, takes the heights back through what lies before, and
 * weighs what each can be.
 *
 * @param echoes in order of delay
 */
export function nameEchoes(echoes: readonly Reflected[], setting: Setting): Named[] {
  const ghosts: ([number, number] | null)[] = [];
  echoes.forEach((_, n) => ghosts.push(ghostMakers(echoes, n, ghosts, setting)));
  const named: Named[] = [];
  /** Where each echo went in the list. */
  const place: number[] = [];
  let through = 1;
  let used = -1;
  echoes.forEach((echo, n) => {
    if (n === used) {
      place.push(Math.max(0, named.length - 1));
      return;
    }
    const makers = ghosts[n];
    if (makers && !echo.soft) {
      const [a, b] = makers;
      place.push(named.length);
      named.push({
        ...echo,
        kind: 'ghost',
        probability: 0.95,
        reflection: echo.share,
        ghostOf: [place[a]!, place[b]!],
        through: null,
      });
      return;
    }
    if (echo.soft) {
      place.push(named.length);
      named.push({
        ...echo,
        kind: 'matched-end',
        probability: 0.95,
        reflection: 0,
        ghostOf: null,
        through: null,
      });
      return;
    }
    const reflection = echo.share / through;
    if (Math.abs(reflection) < LEAST_REFLECTION) {
      place.push(Math.max(0, named.length - 1));
      return;
    }
    const deviation = echo.shareDeviation / through;
    const next = echoes.findIndex(({ soft }, k) => k > n && !soft && !ghosts[k]);
    const gap = next > 0 ? echoes[next]!.delay - echo.delay : Infinity;
    const after = echoes.filter(
      ({ delay }) => next > 0 && Math.abs(delay - 2 * echoes[next]!.delay + echo.delay) < setting.resolution,
    );
    const partner =
      next > 0
        ? partnerOf(
            reflection,
            echoes[next]!,
            through,
            after.map(({ share }) => share),
          )
        : null;
    place.push(named.length);
    const isLead =
      setting.lead > 0 &&
      Math.abs(echo.delay - setting.lead) < 3 * echo.delayDeviation + 0.5 * setting.resolution;
    if (partner && !isLead) {
      used = next;
      const lumped = gap < setting.resolution;
      const kind = lumped ? lumpedKind(reflection) : partner;
      named.push({
        ...echo,
        kind,
        probability: lumped ? 0.8 : 0.92,
        reflection,
        ghostOf: null,
        through: lumped ? null : gap,
      });
      through *= (1 - Math.min(0.8, reflection ** 2)) ** 2;
      return;
    }
    const goesOn = echoes.some(({ soft }, k) => k > n && !soft && !ghosts[k]);
    const { kind, probability } = weigh(reflection, deviation, {
      goesOn,
      isLead,
      lostNeper: echo.lostNeper ?? 0,
    });
    named.push({ ...echo, kind, probability, reflection, ghostOf: null, through: null });
    through *= passes(kind, reflection);
  });
  return ghostsBehindEnd(named, setting);
}

/**
 * Nothing lies behind an end that sends everything back: an echo that comes later goes to and fro
 * before it, whatever its height, if it comes when such a one would.
 */
function ghostsBehindEnd(named: readonly Named[], { resolution, deadZone, lead }: Setting): Named[] {
  const last = named.findIndex(
    ({ kind, reflection, probability }) =>
      (kind === 'open' || kind === 'short') && Math.abs(reflection) > TOTAL && probability > 0.5,
  );
  if (last < 0) return [...named];
  const end = named[last]!;
  const out = named.slice(0, last + 1).map((event, n): Named => {
    const roundsEnd =
      n < last &&
      event.delay > lead + resolution &&
      end.delay - event.delay < deadZone &&
      event.kind === (end.kind === 'open' ? 'series-resistance' : 'wet-or-shunt');
    return roundsEnd ? { ...event, kind: 'joint', probability: ROUNDING } : event;
  });
  for (const event of named.slice(last + 1)) {
    const fits = (delay: number): boolean =>
      Math.abs(event.delay - delay) < 3 * event.delayDeviation + 0.5 * resolution;
    // From the end, or from a ghost before this one, once more between the end and something before it.
    const maker = out
      .slice(last)
      .flatMap((from) =>
        named.slice(0, last).flatMap((thing, a) => {
          const edges = [thing.delay, thing.delay + (thing.through ?? 0)];
          return edges.map((edge) => ({ a, delay: from.delay + end.delay - edge }));
        }),
      )
      .find(({ delay }) => fits(delay));
    const again = out.findIndex(({ delay }) => fits(delay + end.delay));
    if (event.kind === 'ghost' || (!maker && again < 0)) out.push(event);
    else
      out.push({
        ...event,
        kind: 'ghost',
        probability: 0.9,
        reflection: event.share,
        ghostOf: maker ? [maker.a, last] : [again, last],
        through: null,
      });
  }
  return out;
}

/** What of a wave gets past a reflection and back again, by what makes it. */
function passes(kind: EventKind, reflection: number): number {
  // A part in the way or across leaves the same line behind: (1 - |r|)^2; a change of line 1 - r^2.
  const least = 0.04;
  if (kind === 'series-resistance' || kind === 'wet-or-shunt')
    return Math.max(least, (1 - Math.abs(reflection)) ** 2);
  return Math.max(least, 1 - reflection ** 2);
}

const lumpedKind = (reflection: number): EventKind => {
  if (Math.abs(reflection) < 0.1) return 'joint';
  return reflection < 0 ? 'wet-or-shunt' : 'high-section';
};

/**
 * What an echo and the next of opposite sign are together, if one thing makes both: the edges of a
 * section, or a stub's joint and its end. A part across the line before an open end, or one in the
 * way before a short, has such a pair too: heights tell, and what goes to and fro after.
 *
 * @param after the shares of echoes as far behind the second as that is behind the first
 */
function partnerOf(
  reflection: number,
  next: Reflected,
  behind: number,
  after: readonly number[],
): EventKind | null {
  const size = Math.abs(reflection);
  if (size < 0.025 || size > 0.7) return null;
  const answer = (Math.abs(next.share) / behind) * -Math.sign(next.share * reflection);
  if (answer < 0) return null;
  const off = (expected: number): number =>
    Math.abs(answer - expected) / Math.hypot(HEIGHT_KNOWN_TO * expected, next.shareDeviation / behind);
  const section = {
    kind: reflection < 0 ? ('low-section' as const) : ('high-section' as const),
    off: off(size * (1 - size ** 2)),
  };
  const stub = {
    kind: 'stub' as const,
    off: reflection < 0 ? Math.hypot(off(4 / 9), (size - 1 / 3) / 0.025) : Infinity,
  };
  // A part and the end behind it: the end sends on what the part lets through twice.
  const apart = { kind: null, off: off((1 - size) ** 2) + PART_LESS_LIKELY };
  const bounce = after.reduce((sum, share) => sum + share, 0) / behind;
  // To and fro behind a part, the end's echo comes back with the part's own sign.
  if (bounce * reflection > 0 && Math.abs(bounce) > 0.3 * answer * size) section.off += 4;
  const best = [section, stub, apart].reduce((one, other) => (other.off < one.off ? other : one));
  return best.off < MOST_OFF ? best.kind : null;
}

/** What a reflection can be, by its height and by whether anything real lies behind it. */
function weigh(
  reflection: number,
  deviation: number,
  { goesOn, isLead, lostNeper }: { goesOn: boolean; isLead: boolean; lostNeper: number },
): { kind: EventKind; probability: number } {
  if (isLead && Math.abs(reflection) < 0.6) return { kind: 'joint', probability: 0.97 };
  const spread = Math.hypot(END_DEVIATION, deviation, LOSS_TAKEN_TO * lostNeper);
  const part = goesOn ? 0.35 : 0.35 * LAST_PART;
  const behind = goesOn ? 0.05 : 1;
  const over = Math.min(Math.abs(reflection), 1);
  const weights: [EventKind, number][] = [
    ['open', behind * normal(reflection > 0 ? over : reflection, 1, spread)],
    ['short', behind * normal(reflection < 0 ? -over : reflection, -1, spread)],
    ['series-resistance', part * ramp(reflection, deviation)],
    ['wet-or-shunt', part * ramp(-reflection, deviation)],
    ['joint', 0.8 * normal(reflection, 0, Math.hypot(JOINT_DEVIATION, Math.min(deviation, 0.02)))],
  ];
  const total = weights.reduce((sum, [, weight]) => sum + weight, 1e-12);
  const [kind, weight] = weights.reduce((best, next) => (next[1] > best[1] ? next : best));
  return { kind, probability: Math.min(0.999, weight / total) };
}

const normal = (value: number, mean: number, deviation: number): number =>
  Math.exp(-(((value - mean) / deviation) ** 2) / 2) / (deviation * Math.sqrt(2 * Math.PI));

/** One over the heights a part in the way or across makes, falling off at both sides. */
function ramp(height: number, deviation: number): number {
  const soft = Math.hypot(0.015, Math.min(deviation, 0.1));
  const up = 1 / (1 + Math.exp(-(height - LEAST_FAULT) / (soft / 1.7)));
  const down = 1 / (1 + Math.exp((height - MOST_FAULT) / (soft / 1.7)));
  return up * down;
}

/** The two earlier echoes between which one would go to and fro, if it is a ghost. */
function ghostMakers(
  echoes: readonly Reflected[],
  at: number,
  ghosts: readonly ([number, number] | null)[],
  { resolution }: Setting,
): [number, number] | null {
  const echo = echoes[at]!;
  let best: { makers: [number, number]; off: number } | null = null;
  const consider = (a: number, b: number, delay: number, height: number): void => {
    const deviation = Math.hypot(echo.delayDeviation, echoes[a]!.delayDeviation, echoes[b]!.delayDeviation);
    const off = Math.abs(echo.delay - delay);
    if (off > 3 * deviation + 0.35 * resolution) return;
    const size = Math.abs(echo.share);
    const slack = 2 * echo.shareDeviation;
    if (size < height / GHOST_FACTOR - slack || size > height * GHOST_FACTOR + slack) return;
    if (!best || off < best.off) best = { makers: [a, b], off };
  };
  for (let b = 0; b < at; b++) {
    for (let a = 0; a < b; a++) {
      const first = echoes[a]!.share;
      const second = echoes[b]!.share;
      // To and fro between the two: what comes from the second goes back to the first, whose sign
      // from behind is the other for a change of line and the same for a part.
      const passed = Math.max(0.05, (1 - Math.min(0.9, Math.abs(first))) ** 2);
      const bounce = Math.abs(first * second) * Math.min(1, Math.abs(second) / passed);
      consider(a, b, 2 * echoes[b]!.delay - echoes[a]!.delay, bounce);
    }
  }
  // Once more to and fro: as much less again as the time before.
  ghosts.forEach((makers, g) => {
    if (!makers) return;
    const [a, b] = makers;
    const ghost = echoes[g]!;
    const end = echoes[b]!;
    consider(a, b, ghost.delay + end.delay - echoes[a]!.delay, ghost.share ** 2 / Math.abs(end.share));
  });
  return best ? (best as { makers: [number, number] }).makers : null;
}

/**
 * Adds what the source sends out again: two echoes one after the other, and one echo three times,
 * where that stands out of the noise.
 *
 * @param named echoes with their names, in order of delay
 * @param source reflection coefficient of the source, seen from the line
 * @param seen whether an echo of this share would be seen at this delay
 */
export function withSourceGhosts(
  named: readonly Named[],
  source: number,
  seen: (delay: number, share: number) => boolean,
): Named[] {
  type Made = Named & { makers?: [Named, Named] };
  const all: Made[] = named.map((event) =>
    event.ghostOf ? { ...event, makers: [named[event.ghostOf[0]]!, named[event.ghostOf[1]]!] } : { ...event },
  );
  const real = all.filter(({ kind }) => kind !== 'ghost' && kind !== 'matched-end');
  const add = (first: Made, second: Made, share: number): Made | null => {
    const delay = first.delay + second.delay;
    if (!seen(delay, share)) return null;
    const ghost: Made = {
      delay,
      delayDeviation:
        first === second ? 2 * first.delayDeviation : Math.hypot(first.delayDeviation, second.delayDeviation),
      share,
      shareDeviation: Math.abs(share) / 4,
      kind: 'ghost',
      probability: 0.95,
      reflection: share,
      ghostOf: null,
      through: null,
      makers: [first, second],
    };
    all.push(ghost);
    return ghost;
  };
  real.forEach((first, a) => {
    real.slice(a).forEach((second, b) => {
      const again = add(first, second, source * first.share * second.share * (b === 0 ? 1 : 2));
      if (again && b === 0) add(first, again, source * again.share * first.share);
    });
  });
  all.sort((one, other) => one.delay - other.delay);
  const placeOf = (event: Named): number =>
    all.findIndex(({ delay, share }) => delay === event.delay && share === event.share);
  return all.map(({ makers, ...event }) => ({
    ...event,
    ghostOf: makers ? [placeOf(makers[0]), placeOf(makers[1])] : null,
  }));
}
