import type { CableType } from '../cabling/cable-types.js';
import type { ConnectorType, RecipeId } from '../connectors/connector-types.js';
import { checkFit } from './fit.js';

/** Cables that look alike in the hand. */
export interface CableGroup {
  id: string;
  name: string;
  cables: readonly CableType[];
}

interface Look {
  id: string;
  name: string;
  looksSo: (cable: CableType) => boolean;
}

/** What can be told by looking at a cable's cut end, the commonest first; each cable is of the first that fits. */
const LOOKS: readonly Look[] = [
  {
    id: 'four-pairs',
    name: 'Four twisted pairs, solid wires',
    looksSo: ({ family, pairs, stranded }) => family === 'balanced' && pairs === 4 && stranded !== true,
  },
  { id: 'coax', name: 'Coax: one core, a screen about it', looksSo: ({ family }) => family === 'coax' },
  {
    id: 'pairs',
    name: 'Two or three pairs, or many: telephone, bus',
    looksSo: ({ family, pairs }) => family === 'balanced' && pairs !== 4,
  },
  {
    id: 'cords',
    name: 'Four twisted pairs, stranded: cords',
    looksSo: ({ family }) => family === 'balanced',
  },
  {
    id: 'wires',
    name: 'Single wires in a jacket, no screen',
    looksSo: ({ family, screened }) => family === 'multicore' && !screened,
  },
  { id: 'screened', name: 'Single wires under a screen', looksSo: ({ family }) => family === 'multicore' },
  { id: 'ribbon', name: 'Flat ribbon', looksSo: ({ family }) => family === 'ribbon' },
];

/** Cables by what they look like, groups without one left out. */
export function cablesInHand(cables: readonly CableType[]): CableGroup[] {
  const look = (cable: CableType): Look | undefined => LOOKS.find(({ looksSo }) => looksSo(cable));
  return LOOKS.map(({ id, name }) => ({
    id,
    name,
    cables: cables.filter((cable) => look(cable)?.id === id),
  })).filter(({ cables: some }) => some.length > 0);
}

/** Ways of working, the commonest first. */
const COMMONEST: readonly RecipeId[] = [
  'plug-closed',
  'plug-pass-through',
  'jack-punched',
  'jack-toolless',
  'coax-compression',
  'coax-crimp',
  'telephone-socket',
  'splice-gel',
  'splice-crimp',
  'splice-solder-sleeve',
  'splice-solder',
  'terminal',
  'coax-screw-on',
  'coax-clamp',
  'solder-cup',
  'ribbon-press',
  'block',
  'pairs-pressed',
];
const commonness = ({ recipe }: ConnectorType): number => COMMONEST.indexOf(recipe);

/** A connector that goes on a cable: its figures all fit, or some of them have to be looked at. */
export interface Fitting {
  connector: ConnectorType;
  sure: boolean;
}

/**
 * Connectors that go on a cable, sure ones first, and of those one of each way of working before others of the same: what is on the
 * first ten keys differs in more than a size.
 */
export function fittingOn(cable: CableType, connectors: readonly ConnectorType[]): Fitting[] {
  const fitting = connectors.flatMap((connector): Fitting[] => {
    const checks = checkFit(cable, connector);
    if (checks.some(({ verdict }) => verdict === 'does not fit')) return [];
    return [{ connector, sure: checks.every(({ verdict }) => verdict === 'fits') }];
  });
  const bySure = fitting.sort(
    (a, b) => Number(b.sure) - Number(a.sure) || commonness(a.connector) - commonness(b.connector),
  );
  const seen = new Set<string>();
  const firsts: Fitting[] = [];
  const others: Fitting[] = [];
  for (const each of bySure) {
    const kind = `${each.connector.recipe} ${each.connector.face}`;
    (seen.has(kind) ? others : firsts).push(each);
    seen.add(kind);
  }
  return [...firsts, ...others];
}
