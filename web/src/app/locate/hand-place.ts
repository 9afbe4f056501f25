import type { TraceTold } from '@near-spoke/contracts';
import {
  BadCursors,
  BadMetering,
  CATALOGUE_FARAD_SHARE,
  faradPerM,
  lineOf,
  loopByGauge,
  lossByHeight,
  NORMAL_95,
  openByBothEnds,
  openByPerMetre,
  perMetreByGoodPair,
  placeByCursors,
  RESISTANCE_ERRORS,
  shortByBothEnds,
  typedQuantity,
  UNKNOWN_LOSS,
  withoutLeads,
  type CableType,
  type CursorReading,
  type EchoReading,
  type LinkEnd,
  type TypedQuantity,
  LEAD_TAPED_M,
} from '@near-spoke/core';

/** A place that was worked out from figures somebody read, with the sum that gave it. */
export interface HandPlace {
  kind: 'open' | 'short';
  by: NonNullable<EchoReading['by']>;
  from: LinkEnd;
  /** From that end. */
  distanceM: number;
  u95M: number;
  arithmetic: string;
  notes: readonly string[];
  cautions: readonly string[];
  /** What would narrow it, cheapest first. */
  further: readonly string[];
}

/** A place, or in words what is missing or wrong; both empty while nothing was written. */
export type Worked = { place: HandPlace; trouble: '' } | { place: null; trouble: string };

const NOTHING: Worked = { place: null, trouble: '' };

/** Works something out; what cannot be is said, not thrown. */
function worked(work: () => HandPlace): Worked {
  try {
    return { place: work(), trouble: '' };
  } catch (error) {
    if (error instanceof BadCursors || error instanceof BadMetering)
      return { place: null, trouble: error.message };
    throw error;
  }
}

/** By two cursors on a screen. */
export function placeOfTimes(
  reading: CursorReading | null,
  cable: CableType | null,
  told: TraceTold,
  { from, turned }: { from: LinkEnd; turned: 'open' | 'short' },
): Worked {
  if (!reading) return NOTHING;
  const given = { impedanceOhm: told.impedanceOhm, velocityFactor: told.velocityFactor };
  const line = cable ? lineOf(cable, given) : { ...given, ...UNKNOWN_LOSS };
  return worked(() => {
    const place = placeByCursors(reading, line, told.velocityU95, {
      lengthM: told.leadM,
      velocityFactor: told.leadVelocityFactor,
      deviationM: LEAD_TAPED_M,
    });
    const { timingM, velocityM, leadM } = place.budget;
    const loss =
      reading.echoShare !== null && reading.edgeS !== null
        ? lossByHeight(reading.echoShare, place.distanceM, line, reading.edgeS)
        : null;
    const parts = [
      { of: timingM, words: 'A shorter time per division, or a sharper edge, would narrow it most.' },
      { of: velocityM, words: 'Measuring the velocity on a piece of this cable would narrow it most.' },
    ].sort((a, b) => b.of - a.of);
    return {
      kind: place.kind ?? turned,
      by: 'cursors',
      from,
      distanceM: place.distanceM,
      u95M: place.u95M,
      arithmetic: place.arithmetic,
      notes: [
        `Timing ${timingM.toFixed(2)} m, velocity ${velocityM.toFixed(2)} m, lead ${leadM.toFixed(2)} m.`,
        ...(reading.points === 'peak'
          ? [
              `Peak to peak reads ${(place.lateS * 0.149896e9 * told.velocityFactor).toFixed(2)} m long on this line, by typical loss: that is taken off.`,
            ]
          : []),
        ...(loss
          ? [
              `Were it a plain end, its height would be ${loss.dbPer100M.toFixed(1)} dB per 100 m at about ${(loss.aboutHz / 1e6).toFixed(0)} MHz; typical is ${loss.typicalDbPer100M.toFixed(1)}.`,
            ]
          : []),
      ],
      cautions: ['Both ends unplugged and dead before anything is clipped on.'],
      further: parts.slice(0, 1).map(({ words }) => words),
    };
  });
}

/** A cable's length with half its 95 % interval. */
export interface KnownLength {
  lengthM: number;
  u95M: number;
}

/** The fields of one way, as they were typed. */
export type Typed<K extends string> = Readonly<Record<K, string>>;

/** Reads typed fields; an empty one is null, a wrong one says what to write. */
function figuresOf<K extends string>(
  typed: Typed<K>,
  quantity: TypedQuantity,
  names: Readonly<Record<K, string>>,
): { figures: Record<K, number | null>; trouble: string } {
  const troubles: string[] = [];
  const figures = Object.fromEntries(
    Object.entries<string>(typed).map(([key, text]) => {
      if (text.trim() === '') return [key, null];
      const { figure, trouble } = typedQuantity(text, quantity, names[key as K]);
      if (trouble) troubles.push(trouble);
      return [key, figure];
    }),
  ) as Record<K, number | null>;
  return { figures, trouble: troubles.join(' ') };
}

export const CAPACITANCE_NAMES = {
  near: 'From the near end',
  far: 'From the far end',
  good: 'A good pair',
  leads: 'Leads alone',
} as const;

/** By farads: from both ends, or from one with a good pair's figure or the catalogue's. */
export function placeOfCapacitance(
  typed: Typed<keyof typeof CAPACITANCE_NAMES>,
  cable: CableType | null,
  length: KnownLength,
): Worked {
  const { figures, trouble } = figuresOf(typed, 'capacitance', CAPACITANCE_NAMES);
  if (trouble) return { place: null, trouble };
  const { near, far, good, leads } = figures;
  const [one, from] = near !== null ? ([near, 'near'] as const) : ([far, 'far'] as const);
  if (one === null) return NOTHING;
  const off = leads ?? 0;
  const perMetre = cable && { farad: faradPerM(cable), u95Share: CATALOGUE_FARAD_SHARE };
  return worked(() => {
    const ofPair = withoutLeads(one, off, CAPACITANCE_NAMES[from]);
    const head = { kind: 'open', by: 'capacitance', from } as const;
    if (near !== null && far !== null) {
      const open = openByBothEnds(
        ofPair,
        withoutLeads(far, off, CAPACITANCE_NAMES.far),
        { lengthM: length.lengthM, deviationM: length.u95M / NORMAL_95 },
        undefined,
        perMetre,
      );
      return {
        ...head,
        ...placeOf(open),
        further: ['A measured length of the cable, in place of the planned one, would narrow it.'],
      };
    }
    if (good !== null) {
      const own = perMetreByGoodPair(withoutLeads(good, off, CAPACITANCE_NAMES.good), length.lengthM);
      const byLength = Math.hypot(own.u95Share, length.u95M / length.lengthM);
      const open = openByPerMetre(
        ofPair,
        { ...own, u95Share: byLength },
        { lengthM: length.lengthM, byGoodPair: true },
      );
      return { ...head, ...placeOf(open), further: ['The same reading from the other end would narrow it.'] };
    }
    if (!perMetre)
      throw new BadMetering('The cable’s figure is not known: read a good pair of it, or the other end too.');
    return {
      ...head,
      ...placeOf(openByPerMetre(ofPair, perMetre, { lengthM: length.lengthM })),
      further: [
        'A good pair of the same cable, read with the same meter, would narrow it most.',
        'So would the same reading from the other end.',
      ],
    };
  });
}

export const RESISTANCE_NAMES = {
  near: 'Loop, near end',
  far: 'Loop, far end',
  good: 'Loop of a good pair',
  leads: 'Leads alone',
} as const;

/** By ohms from both ends: the contact's own resistance drops out. */
export function placeOfResistance(
  typed: Typed<keyof typeof RESISTANCE_NAMES>,
  cable: CableType | null,
  length: KnownLength,
): Worked {
  const { figures, trouble } = figuresOf(typed, 'resistance', RESISTANCE_NAMES);
  if (trouble) return { place: null, trouble };
  const { near, far, good, leads } = figures;
  if (near === null && far === null) return NOTHING;
  if (near === null || far === null)
    return {
      place: null,
      trouble:
        'A short’s own resistance drops out only from both ends: read the other end too, this one open.',
    };
  const off = leads ?? 0;
  return worked(() => {
    const loop =
      good === null
        ? loopByGauge(cable?.awg ?? 24, length.lengthM)
        : {
            ohm: withoutLeads(good, off, RESISTANCE_NAMES.good),
            deviation: RESISTANCE_ERRORS.fixed / NORMAL_95,
          };
    const short = shortByBothEnds(
      withoutLeads(near, off, RESISTANCE_NAMES.near),
      withoutLeads(far, off, RESISTANCE_NAMES.far),
      { lengthM: length.lengthM, deviationM: length.u95M / NORMAL_95 },
      loop,
    );
    return {
      kind: 'short',
      by: 'resistance',
      from: 'near',
      ...placeOf(short),
      notes: [
        `The contact itself has ${short.contactOhm.toFixed(2)} ohm, give or take ${short.contactU95.toFixed(2)}.`,
      ],
      further:
        good === null
          ? ['The loop of a good pair of this cable, at the same temperature, would narrow it most.']
          : ['A measured length of the cable, in place of the planned one, would narrow it.'],
    };
  });
}

const placeOf = ({
  value,
  u95,
  arithmetic,
  cautions,
}: {
  value: number;
  u95: number;
  arithmetic: string;
  cautions: readonly string[];
}): Pick<HandPlace, 'distanceM' | 'u95M' | 'arithmetic' | 'cautions' | 'notes'> => ({
  distanceM: value,
  u95M: u95,
  arithmetic,
  cautions,
  notes: [],
});

/** A place as a reading that a link is judged by. */
export const asHandReading = ({ kind, by, from, distanceM, u95M }: HandPlace, pair: string): EchoReading => ({
  instrument: 'pair-reflectometer',
  by,
  from,
  pairs: {
    [pair]: [
      {
        kind,
        distanceM: Math.max(0, Math.round(distanceM * 100) / 100),
        uM: Math.round((100 * u95M) / NORMAL_95) / 100,
      },
    ],
  },
});
