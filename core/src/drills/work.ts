import { CABLE_TYPES } from '../cabling/cable-library.js';
import type { CableType } from '../cabling/cable-types.js';
import { CONNECTOR_TYPES } from '../connectors/connector-library.js';
import type { ConnectorType, ToolKind } from '../connectors/connector-types.js';
import type { Random } from '../quantities/random.js';
import { buildCard, type CardStep } from '../termination/card.js';
import { fittingOn } from '../termination/in-hand.js';
import { among, pick, shuffled, type Drill } from './drill.js';

interface Work {
  cable: CableType;
  connector: ConnectorType;
  steps: readonly CardStep[];
}

/** A card of an end that fits, of which something can be asked. */
function workWith(random: Random, asks: (steps: readonly CardStep[]) => boolean): Work {
  for (const cable of shuffled(random, CABLE_TYPES))
    for (const { connector } of shuffled(
      random,
      fittingOn(cable, CONNECTOR_TYPES).filter(({ sure }) => sure),
    )) {
      const { steps } = buildCard({ cable, connector });
      if (asks(steps)) return { cable, connector, steps };
    }
  throw new RangeError('No card in the kit can be asked that.');
}
const titlesOf = (steps: readonly CardStep[]): string[] => steps.map(({ title }) => title);
const on = ({ cable, connector }: Work): string => `${connector.name} on ${cable.name}`;

/** What is done before all else: what has to be threaded is what gets forgotten. */
export function whatGoesOnFirst(random: Random): Drill {
  const work = workWith(random, (steps) => steps[0]?.verb === 'thread' && steps.length >= 4);
  const [first, ...others] = work.steps as [CardStep, ...CardStep[]];
  return {
    kind: 'what-goes-on-first',
    asks: `${on(work)}: what is done first?`,
    picture: null,
    ...among(random, first.title, shuffled(random, titlesOf(others))),
    reason: first.reason,
  };
}

/** The step that follows another; the ones behind that are what is jumped to. */
export function whatComesNext(random: Random): Drill {
  const work = workWith(random, (steps) => steps.length >= 5);
  const at = Math.floor(random() * (work.steps.length - 3));
  const [here, next, ...later] = work.steps.slice(at) as [CardStep, CardStep, ...CardStep[]];
  return {
    kind: 'what-comes-next',
    asks: `${on(work)}: what comes after “${here.title}”?`,
    picture: null,
    ...among(
      random,
      next.title,
      titlesOf(later).filter((title) => title !== here.title),
    ),
    reason: next.reason,
  };
}

/** The step that a caution belongs to. */
export function whereToTakeCare(random: Random): Drill {
  const work = workWith(
    random,
    (steps) => steps.length >= 4 && steps.some(({ caution }) => caution !== null),
  );
  const step = pick(
    random,
    work.steps.filter(({ caution }) => caution !== null),
  );
  const others = work.steps.filter(({ caution }) => caution !== step.caution);
  return {
    kind: 'where-to-take-care',
    asks: `${on(work)}. “${step.caution}” At which step?`,
    picture: null,
    ...among(random, step.title, shuffled(random, titlesOf(others))),
    reason: `${step.title}: ${step.how}`,
  };
}

/** What another size of a tool does to the end. */
const ANOTHER_SIZE: Partial<Record<ToolKind, string>> = {
  'modular crimp tool':
    'Another die bends the contacts or does not reach them, and only the cutting one trims what passes through.',
  'insertion tool':
    'Another blade spreads the slot or does not seat the wire; what is spread once holds none again.',
  'coax stripper': 'Set for another cable it nicks the core or leaves braid standing.',
  'compression tool': 'With another adapter the plug is pressed too short, or askew.',
  'hex crimp tool':
    'A die too large leaves the ferrule loose; one too small cracks it and crushes the dielectric.',
  'pin crimp tool': 'Too large, the pin comes off the core; too small, it cracks.',
  'splice crimp tool': 'One for another gauge crimps loose, or cuts the strands.',
};

/** The die, blade or adapter that an end needs, among those of its like. */
export function whichDie(random: Random): Drill {
  const sizes = (connector: ConnectorType): string[] =>
    connector.tools.flatMap(({ size }) => (size === null ? [] : [size]));
  const sized = CONNECTOR_TYPES.filter((connector) => sizes(connector).length > 0);
  const connector = pick(random, sized);
  const need = pick(
    random,
    connector.tools.filter(({ size }) => size !== null),
  );
  const others = sized.flatMap(({ tools }) =>
    tools.flatMap(({ kind, size }) =>
      kind === need.kind && size !== null && !sizes(connector).includes(size) ? [size] : [],
    ),
  );
  return {
    kind: 'which-die',
    asks: `${connector.name}: which is right for the ${need.kind}?`,
    picture: null,
    ...among(random, need.size ?? '', [
      ...shuffled(random, [...new Set(others)]),
      'whichever closes on it',
      'none, by hand',
    ]),
    reason: `This connector’s sheet wants ${need.size}. ${ANOTHER_SIZE[need.kind] ?? ''}`.trim(),
  };
}
