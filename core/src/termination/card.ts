import type { ContactId, SchemeId } from '../cabling/schemes.js';
import { slotRows, type ConnectorType, type PartKind, type ToolNeed } from '../connectors/connector-types.js';
import type { AssignedContact } from '../connectors/assignment.js';
import { beforeWork } from './before-work.js';
import { checkFit, type FitCheck } from './fit.js';
import { orderWork, type PartVerdict } from './part-verdicts.js';
import { named, spoken, type RecipeStep, type StepPicture, type Verb } from './recipes/recipe.js';
import { schoolsFor, type School } from './schools.js';
import { stripPlan, type StripPlan } from './strip-plan.js';
import { layOut, type Termination, type TerminationInput } from './termination.js';
import { checkTools, type ToolCheck, type ToolType } from './tools.js';

/** One step of a work card. */
export interface CardStep {
  id: string;
  verb: Verb;
  /** The operations this step does: one, or several parts threaded together. */
  operations: readonly string[];
  title: string;
  how: string;
  reason: string;
  /** What to look at, and what is good. */
  accept: string;
  /** What is bad, and what that means. */
  reject: string;
  caution: string | null;
  wrongTurns: readonly string[];
  /** After this step the connector is spent if something was wrong. */
  noWayBack: boolean;
  /** The order is read back here. */
  readBack: boolean;
  picture: StepPicture;
  minutes: number;
  tool: ToolNeed | null;
}

/** Everything one pair of hands needs for one cable end. */
export interface WorkCard {
  title: string;
  cableName: string;
  connectorId: string;
  scheme: SchemeId;
  tools: readonly ToolCheck[];
  parts: readonly string[];
  threaded: readonly PartVerdict[];
  fit: readonly FitCheck[];
  /** What has to be so before the first step: nothing of it comes in the middle of the work. */
  before: readonly string[];
  strip: StripPlan;
  /** Conductor on each contact, in contact order. */
  order: readonly AssignedContact[];
  slots: { left: readonly SlotLine[]; right: readonly SlotLine[] } | null;
  schools: readonly School[];
  steps: readonly CardStep[];
  minutes: number;
  source: ConnectorType['source'];
}

/** A slot and what is laid in it; null for a slot that stays empty. */
export interface SlotLine {
  contact: ContactId;
  conductor: string | null;
}

/**
 * Builds the work card for one end: the order of its steps is derived from the geometry of cable
 * and connector, its checks from their figures and the crew's tools.
 *
 * @throws RangeError when the recipe has no order whatever is left out
 */
export function buildCard(
  input: TerminationInput & { scheme?: SchemeId; tools?: readonly ToolType[] },
): WorkCard {
  const { cable, connector } = input;
  const choices = { ...input.choices, ...(input.scheme ? { scheme: input.scheme } : {}) };
  const termination = layOut({ ...input, choices });
  const { order, verdicts } = orderWork(termination);
  const { figures } = termination;
  const line = (contact: ContactId): SlotLine => ({
    contact,
    conductor: figures.order.find((l) => l.contact === contact)?.conductor ?? null,
  });
  const rows = connector.slots.length > 0 ? slotRows(connector) : null;
  const steps = toSteps(termination, order);
  return {
    title: connector.name,
    cableName: cable.name,
    connectorId: connector.id,
    scheme: figures.choices.scheme,
    tools: checkTools(termination.tools, input.tools ?? []),
    parts: [
      connector.name,
      ...[...termination.rings.map(({ part }) => part), ...termination.opening].map((part) => part.name),
    ],
    threaded: verdicts,
    fit: checkFit(cable, connector),
    before: beforeWork(cable, connector),
    strip: stripPlan(cable, connector),
    order: figures.order,
    slots: rows && {
      left: rows.left.map((s) => line(s.contact)),
      right: rows.right.map((s) => line(s.contact)),
    },
    schools: schoolsFor(cable, connector),
    steps,
    minutes: connector.minutes,
    source: connector.source,
  };
}

/** The order as steps: neighbouring threadings are one step, in the order in which the parts go on. */
function toSteps(termination: Termination, order: readonly string[]): CardStep[] {
  const steps: CardStep[] = [];
  let threading: string[] = [];
  const flush = (): void => {
    if (threading.length > 0) steps.push(threadStep(termination, threading, steps.length === 0));
    threading = [];
  };
  for (const id of order) {
    const step = termination.steps.find((s) => s.id === id);
    if (!step) threading.push(id);
    else {
      flush();
      steps.push(workStep(termination, step));
    }
  }
  flush();
  return steps;
}

function workStep({ figures, tools }: Termination, step: RecipeStep): CardStep {
  return {
    id: step.id,
    verb: step.verb,
    operations: [step.id],
    title: step.title(figures),
    how: step.how(figures),
    reason: spoken(step.reason, figures),
    accept: spoken(step.accept, figures),
    reject: spoken(step.reject, figures),
    caution: step.caution === undefined ? null : spoken(step.caution, figures),
    wrongTurns: (typeof step.wrongTurns === 'function' ? step.wrongTurns(figures) : step.wrongTurns) ?? [],
    noWayBack: step.noWayBack ?? false,
    readBack: step.readBack ?? false,
    picture: step.picture,
    minutes: step.minutes,
    tool: tools.find((need) => need.kind === step.tool) ?? null,
  };
}

const HANDED: readonly PartKind[] = ['boot', 'cap', 'hood', 'nut', 'strain-relief'];

function threadStep({ rings }: Termination, operations: readonly string[], first: boolean): CardStep {
  const parts = operations.map((id) => rings.find((r) => r.operationId === id)?.part.name ?? id);
  const these = rings.filter((r) => operations.includes(r.operationId));
  const onCore = these.some((r) => r.part.over === 'core');
  // A tube is alike from both sides; a boot, a cap and a shell are not.
  const handed = these.some((r) => HANDED.includes(r.part.kind));
  const order = parts.length > 1 ? ` In this order: ${parts.join(', then ')}.` : '';
  const it = parts.length > 1 ? 'them' : 'it';
  return {
    id: first ? 'thread' : `thread-${operations[0]?.replace('thread-', '')}`,
    verb: 'thread',
    operations,
    title: `Thread the ${named(parts)}`,
    how: onCore
      ? `Slide the ${named(parts)} well back, away from the heat.${order}`
      : `Slide the ${named(parts)} onto the jacket${handed ? ', the right way round,' : ''} and push ${it} well back.${order}`,
    reason: 'A closed ring cannot pass what comes next once that is on. Forgetting it costs the connector.',
    accept: handed
      ? 'On the cable, open side towards the end, out of the way.'
      : 'On the cable, out of the way of what comes next.',
    reject: handed
      ? 'Missing or the wrong way round: now is the last moment when that costs nothing.'
      : 'Missing: now is the last moment when that costs nothing.',
    caution: null,
    wrongTurns: handed ? [`On backwards: take ${it} off and turn ${it} now, while it is free.`] : [],
    noWayBack: false,
    readBack: false,
    picture: 'thread',
    minutes: 0.3 * parts.length,
    tool: null,
  };
}
