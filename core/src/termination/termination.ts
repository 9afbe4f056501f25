import type { CableType } from '../cabling/cable-types.js';
import { SCHEMES } from '../cabling/schemes.js';
import {
  isThreaded,
  type ConnectorPart,
  type ConnectorType,
  type ToolNeed,
} from '../connectors/connector-types.js';
import type { UnitSystem } from '../quantities/length.js';
import { assign } from '../connectors/assignment.js';
import { jointMm, sleeveOver, type ShrinkTube } from './heat-shrink.js';
import { CORE, JACKET, type Assembly, type Operation } from './assembly.js';
import { RECIPES } from './recipes/recipe-book.js';
import type { CardFigures, RecipeStep } from './recipes/recipe.js';
import { USUAL_CHOICES, type Choices } from './schools.js';

/** What is to be terminated, with what, and how. */
export interface TerminationInput {
  cable: CableType;
  connector: ConnectorType;
  choices?: Partial<Choices>;
  units?: UnitSystem;
}

/** A closed part and the operation that threads it. */
export interface ThreadedPart {
  operationId: string;
  part: ConnectorPart;
}

/** One end's work as data: the recipe's steps that apply, and the assembly the solver works on. */
export interface Termination {
  figures: CardFigures;
  steps: readonly RecipeStep[];
  rings: readonly ThreadedPart[];
  /** Parts that open along their length and never have to be threaded. */
  opening: readonly ConnectorPart[];
  tools: readonly ToolNeed[];
  assembly: Assembly;
}

/**
 * Lays out the work at one end. The recipe's steps follow one another; where the rings go among
 * them is left to the solver.
 */
export function layOut(input: TerminationInput): Termination {
  const { cable, connector } = input;
  const choices: Choices = { ...USUAL_CHOICES, ...input.choices };
  const figures: CardFigures = {
    cable,
    connector,
    choices,
    scheme: SCHEMES[choices.scheme],
    order: assign(cable, connector, choices),
    units: input.units ?? 'metric',
  };
  const steps = RECIPES[connector.recipe].filter((step) => step.when?.(figures) ?? true);
  const parts = partsFor(cable, connector);
  const rings = parts.filter(isThreaded).map((part, i, all) => {
    const again = all.slice(0, i).filter((p) => p.kind === part.kind).length;
    return { operationId: `thread-${part.kind}${again > 0 ? `-${again + 1}` : ''}`, part };
  });
  return {
    figures,
    steps,
    rings,
    opening: parts.filter((part) => !isThreaded(part)),
    tools: toolsFor(cable, connector, choices),
    assembly: {
      cableMm: cable.jacketMm,
      operations: [...threading(rings, steps), ...working(steps, figures, rings)],
    },
  };
}

/**
 * Rings, deepest first: those on the jacket from the back, then those on the opened core. Nothing
 * is threaded before a recipe that begins with proving the cable dead has done so.
 */
function threading(rings: readonly ThreadedPart[], steps: readonly RecipeStep[]): Operation[] {
  const after = steps[0]?.id === 'dead' ? ['dead'] : [];
  const onJacket = rings.filter(({ part }) => part.over === 'jacket');
  const onCore = rings.filter(({ part }) => part.over === 'core');
  const thread = ({ operationId, part }: ThreadedPart, rest: number): Operation => ({
    id: operationId,
    after,
    thread: { part: operationId, boreMm: part.boreMm, outsideMm: part.outsideMm, rest },
  });
  return [
    ...onJacket.map((ring, i) => thread(ring, JACKET + i)).reverse(),
    ...onCore.map((ring, i) => thread(ring, CORE + (i + 1) / 10)).reverse(),
  ];
}

function working(
  steps: readonly RecipeStep[],
  figures: CardFigures,
  rings: readonly ThreadedPart[],
): Operation[] {
  return steps.map((step, i): Operation => {
    const before = steps[i - 1];
    const brought = step.brings && rings.find(({ part }) => part.kind === step.brings?.part);
    return {
      id: step.id,
      after: before ? [before.id] : [],
      girths: step.girths?.(figures),
      slide: brought && step.brings ? { part: brought.operationId, to: step.brings.to } : undefined,
    };
  });
}

/** What a soldered joint's sleeve covers: the joint and some insulation on either side. */
const SLEEVE_COVERS_MM = 36;

/** How full round wires fill a bundle, and a shrunk sleeve's wall. */
const PACKED = 0.7;
const SHRUNK_WALL_MM = 0.6;

/**
 * Parts that depend on the wires in hand: the sleeve of a soldered splice goes over their joint and grips their
 * insulation; and a cable of several wires gets one over all of them in place of the jacket it lost.
 */
function partsFor(cable: CableType, connector: ConnectorType): readonly ConnectorPart[] {
  const { conductorMm, bareMm, conductors, jacketMm } = cable;
  // A solid wire is clamped as it is.
  if (connector.group === 'terminal' && cable.stranded === false)
    return connector.parts.filter(({ kind }) => kind !== 'ferrule');
  if (connector.group !== 'splice' || conductorMm === null || bareMm === null) return connector.parts;
  const overJoint = Math.max(conductorMm, jointMm(bareMm, bareMm));
  const inner =
    connector.recipe === 'splice-solder' ? sleeveOver([conductorMm], overJoint, SLEEVE_COVERS_MM) : null;
  const parts = connector.parts.map((part) =>
    inner && part.kind === 'heat-shrink' ? { ...part, ...tubeAs(inner.tube, 'heat-shrink') } : part,
  );
  if (conductors < 2 || connector.recipe === 'splice-gel') return parts;
  // Joints are staggered: one of them, covered, beside the other wires is the thickest place.
  const thickest = Math.sqrt(
    ((overJoint + 2 * SHRUNK_WALL_MM) ** 2 + (conductors - 1) * conductorMm ** 2) / PACKED,
  );
  const outer = sleeveOver([jacketMm], thickest, connector.strip.jacketMm);
  return [
    ...parts,
    {
      kind: 'sleeve',
      lengthMm: 2 * connector.strip.jacketMm,
      over: 'jacket',
      split: false,
      optional: false,
      ...(outer
        ? tubeAs(outer.tube, 'outer heat-shrink')
        : { name: 'outer cover', boreMm: thickest + 1, outsideMm: thickest + 2 }),
    },
  ];
}

const tubeAs = (
  { suppliedMm, ratio }: ShrinkTube,
  name: string,
): Pick<ConnectorPart, 'name' | 'boreMm' | 'outsideMm'> => ({
  name: `${name}, ${suppliedMm} mm tube ${ratio}`,
  boreMm: suppliedMm,
  outsideMm: suppliedMm + 2 * SHRINK_WALL_MM,
});

const SHRINK_WALL_MM = 0.35;

/** A soldered pin asks for an iron instead of a pin die, and a solid wire for no ferrule. */
function toolsFor(cable: CableType, connector: ConnectorType, choices: Choices): ToolNeed[] {
  const needed = connector.tools.filter(
    ({ kind }) => kind !== 'ferrule crimp tool' || cable.stranded !== false,
  );
  return needed.map((need) =>
    need.kind === 'pin crimp tool' && choices.centrePin === 'soldered'
      ? { kind: 'soldering iron' as const, size: null }
      : need,
  );
}
