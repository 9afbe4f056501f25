import type { RouteStretch } from '../../cabling/route-stretch.js';

/** What a stretch goes through; the local code says which jackets may. */
export type Space = 'indoor' | 'riser' | 'plenum' | 'outdoor' | 'underground';
export const SPACES: readonly Space[] = ['indoor', 'riser', 'plenum', 'outdoor', 'underground'];

/** What is known of a stretch that many links share; what is not said is a mild room and an open tray. */
export interface StretchConditions {
  name: string;
  /** Air about the cables at its worst, °C. */
  temperatureC: number;
  space: Space;
  /** In a closed duct, or under insulation, where warmth does not leave. */
  closed: boolean;
  /** Bore of the duct, millimetres; null where it is a tray, or not known. */
  ductMm: number | null;
  /** Distance from mains cables beside it, millimetres; null where there are none, or not known. */
  mainsMm: number | null;
}

export const MILD_C = 20;

/** What the way of a link is called that names no stretches. */
export const NO_STRETCH = '';

export const ORDINARY: Omit<StretchConditions, 'name'> = {
  temperatureC: MILD_C,
  space: 'indoor',
  closed: false,
  ductMm: null,
  mainsMm: null,
};

/** One piece of a link's way with the air about it and the fed cables that lie with it, itself counted. */
export interface RunPiece {
  name: string;
  lengthM: number;
  temperatureC: number;
  closed: boolean;
  space: Space;
  fed: number;
}

/**
 * A link's way in pieces. Where its route does not add up to its length, the pieces keep their proportion:
 * slack lies where the cable lies.
 *
 * @param fedIn how many fed cables lie in a stretch
 */
export function runOf(
  { lengthM, route }: { lengthM: number; route: readonly RouteStretch[] },
  conditions: readonly StretchConditions[],
  fedIn: (name: string) => number,
): RunPiece[] {
  const routeM = route.reduce((sum, stretch) => sum + stretch.lengthM, 0);
  const like = (name: string): Pick<RunPiece, 'temperatureC' | 'closed' | 'space'> =>
    pick(conditions.find((one) => one.name === name) ?? ORDINARY);
  if (routeM <= 0) return [{ name: NO_STRETCH, lengthM, fed: 1, ...like(NO_STRETCH) }];
  return route.map(({ name, lengthM: own }) => ({
    name,
    lengthM: (own * lengthM) / routeM,
    fed: Math.max(1, fedIn(name)),
    ...like(name),
  }));
}

const pick = ({ temperatureC, closed, space }: Omit<StretchConditions, 'name'>) => ({
  temperatureC,
  closed,
  space,
});

/** The same way, so much longer or shorter. */
export const scaled = (run: readonly RunPiece[], factor: number): RunPiece[] =>
  run.map((piece) => ({ ...piece, lengthM: piece.lengthM * factor }));

export const runLengthM = (run: readonly RunPiece[]): number =>
  run.reduce((sum, piece) => sum + piece.lengthM, 0);
