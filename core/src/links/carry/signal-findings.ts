import type { CableType } from '../../cabling/cable-types.js';
import { busReachM, type BusUse } from './bus-reach.js';
import { leastLevelMargin, levelsAtEnd, type SignalUse } from './coax-level.js';
import { held, type Cure, type PlanFinding } from './finding.js';
import type { PlannedLink, Surroundings } from './planned-link.js';
import { runLengthM, scaled, type RunPiece } from './run.js';

/** A signal over coax: its level at the far end, over the band it is used for. */
export function signalFindings(
  signal: SignalUse,
  { cable }: PlannedLink,
  run: RunPiece[],
  around: Surroundings,
): PlanFinding[] {
  const marginOn = (other: CableType, over: readonly RunPiece[] = run) =>
    leastLevelMargin(levelsAtEnd(signal, other, over), signal);
  const { mhz, levelDb, marginDb, edge } = marginOn(cable);
  const weak = (): Cure[] => [
    { cure: 'amplify', db: -marginDb },
    ...around.cables
      .filter((other) => other.family === 'coax' && other.impedanceOhm === cable.impedanceOhm)
      .map((other): Cure => ({ cure: 'other-cable', cableId: other.id, spare: marginOn(other).marginDb }))
      .filter((cure) => 'spare' in cure && cure.spare >= 0),
    ...shorterForLevel(signal, cable, run),
  ];
  return [
    {
      ...held({
        check: 'level',
        quantity: 'level',
        source: cable.loss ? 'the cable’s figures, connectors typical' : 'typical',
        is: levelDb,
        limit: edge === 'least' ? signal.leastDb : signal.mostDb,
        least: edge === 'least',
        at: { mhz },
      }),
      // A level has no natural size: what is to spare is a share of the window.
      margin: marginDb / Math.max(1, (signal.mostDb - signal.leastDb) / 2),
      verdict: marginDb < 0 ? 'fails' : marginDb < 1 ? 'close' : 'fits',
      cures:
        marginDb >= 0 ? [] : edge === 'least' ? weak() : [{ cure: 'attenuate', db: Math.max(1, -marginDb) }],
    },
  ];
}

function shorterForLevel(signal: SignalUse, cable: CableType, run: RunPiece[]): Cure[] {
  const lengthM = runLengthM(run);
  const least = (m: number): number =>
    Math.min(...levelsAtEnd(signal, cable, scaled(run, m / lengthM)).map(({ levelDb }) => levelDb));
  // Loss is straight in length.
  const [none, whole] = [least(0), least(lengthM)];
  const toM = (lengthM * (none - signal.leastDb)) / (none - whole);
  return toM > 0 && toM < lengthM ? [{ cure: 'shorten', toM }] : [];
}

/** A bus: how far it reaches at its speed. */
export function busFindings(bus: BusUse, { lengthM }: PlannedLink): PlanFinding[] {
  const limit = busReachM(bus);
  const slower = [1_000_000, 500_000, 250_000, 125_000, 115_200, 50_000, 38_400, 19_200, 9_600].find(
    (bitPerS) => bitPerS < bus.bitPerS && busReachM({ ...bus, bitPerS }) >= lengthM,
  );
  return [
    held({
      check: 'bus',
      quantity: 'length',
      source: bus.law === 'can' ? 'ISO 11898-2, usual table' : 'ANSI/TIA/EIA-485-A, guideline',
      is: lengthM,
      limit,
      cures: () => [
        ...(slower === undefined ? [] : [{ cure: 'slower', bitPerS: slower } as const]),
        { cure: 'shorten', toM: limit },
      ],
    }),
  ];
}
