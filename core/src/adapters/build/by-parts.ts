import { layoutFor } from '../../connectors/own-layout.js';
import { placeWords, type AdapterDesign, type AdapterEnd } from '../design.js';
import type { JumperPlan } from '../jumpers.js';
import { stageNames, type PlacedStage } from '../level-stage.js';
import type { BuildStep } from './step.js';

/** Loose wires: drawn from a ribbon or a box, plugged one by one, then held together as blocks. */
export function jumperSteps(plan: JumperPlan | null): BuildStep[] {
  if (!plan) return [];
  const blank = { wire: null, farColour: null };
  const wires = plan.jumpers.map(({ signal, colour, from, to }): BuildStep => ({
    ...blank,
    id: `jumper ${placeWords(from)} ${placeWords(to)}`,
    kind: 'joint',
    words: `${signal}: one wire from ${placeWords(from)} to ${placeWords(to)}`,
    end: from.end,
    contact: from.contact,
    colour,
    farColour: colour,
  }));
  const blocks = plan.blocks.map(({ end, contacts, mark }): BuildStep => ({
    ...blank,
    id: `block ${end} ${contacts.join(' ')}`,
    kind: 'keep',
    words:
      contacts.length > 1
        ? `Tape or house ${contacts.join(', ')} of ${end} as one block: ${mark}.`
        : `Single wire at ${end} ${contacts[0] ?? ''}: ${mark}.`,
    end,
    contact: contacts[0] ?? null,
    colour: null,
  }));
  return [...wires, ...blocks];
}

/** A pull on the lead must not reach its joints: each end that was wired by hand is held by its jacket. */
export function reliefSteps({ ends }: AdapterDesign, whole: boolean): BuildStep[] {
  const wired = ends.filter(({ pins }) => !whole && !pins.some(({ colour }) => colour !== undefined));
  return wired.map(({ id, name, layout }) => {
    const gland = threadsOf({ layout }).find((ring) => /gland|seal/.test(ring));
    return {
      id: `relief ${id}`,
      kind: 'keep',
      words: `Hold the jacket at ${name} (${id}): ${gland ? 'the gland nut tight on it' : 'clamped in the hood, or tied where there is none'}; pull, and see that no joint moves.`,
      end: id,
      contact: null,
      wire: null,
      colour: null,
      farColour: null,
    };
  });
}

/** A level stage as the parts that it is made of, each with where its contacts go. */
export function stageSteps(design: AdapterDesign, stage: PlacedStage, n: number): BuildStep[] {
  const { driver, receiver, end } = stage;
  const nodes: Readonly<Record<string, string>> = { ...stageNames(design, stage) };
  return stage.parts.map(({ id, what, contacts }) => {
    const ends = Object.entries(contacts).map(([contact, node]) => ({
      contact,
      to: nodes[node] ?? `the ${node}`,
    }));
    const goes = ends.some(({ contact }) => contact === 'one')
      ? `: from ${ends.map(({ to }) => to).join(' to ')}`
      : ends.length > 0
        ? `: ${ends.map(({ contact, to }) => `${contact} to ${to}`).join(', ')}`
        : '';
    return {
      id: `stage ${n} ${placeWords(driver)} ${placeWords(receiver)} ${id}`,
      kind: 'part',
      words: `${id}, ${what}${goes}, sleeved.`,
      end,
      contact: (end === driver.end ? driver : receiver).contact,
      wire: null,
      colour: null,
      farColour: null,
    };
  });
}

/** Closed rings of a connector, which go on the cable first. */
export const threadsOf = ({ layout }: Pick<AdapterEnd, 'layout'>): readonly string[] =>
  layoutFor(layout ?? null)?.threads ?? [];
