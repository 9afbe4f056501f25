import type { CableType } from '../../cabling/cable-types.js';
import type { PlanFinding } from './finding.js';
import { stretchesOf, type JobFindings } from './plan-job.js';
import type { Carries, PlannedLink } from './planned-link.js';
import { NO_STRETCH, ORDINARY, type StretchConditions } from './run.js';

/** What of a plan is thought otherwise; null leaves it as it is. */
export interface WhatIf {
  /** All air so many degrees warmer, °C. */
  warmerC: number;
  /** One kind of cable instead of another, wherever that is planned. */
  cable: { from: string; to: CableType } | null;
  /** Every fed link by this type. */
  powerType: string | null;
}

export const AS_IT_IS: WhatIf = { warmerC: 0, cable: null, powerType: null };

/** A plan with that thought otherwise. */
export function planIf(
  links: readonly PlannedLink[],
  conditions: readonly StretchConditions[],
  { warmerC, cable, powerType }: WhatIf,
): { links: PlannedLink[]; conditions: StretchConditions[] } {
  const said = new Map(conditions.map((one) => [one.name, one]));
  for (const { name } of stretchesOf(links, conditions))
    if (!said.has(name)) said.set(name, { ...ORDINARY, name });
  if (!said.has(NO_STRETCH)) said.set(NO_STRETCH, { ...ORDINARY, name: NO_STRETCH });
  return {
    links: links.map((link) => ({
      ...link,
      cable: cable && link.cable.id === cable.from ? cable.to : link.cable,
      carries: fedBy(link.carries, powerType),
    })),
    conditions: [...said.values()].map((one) => ({ ...one, temperatureC: one.temperatureC + warmerC })),
  };
}

/** What a link carries, fed by another type where it is fed at all: a supply that was said was of the type before. */
export function fedBy(carries: Carries, powerType: string | null): Carries {
  if (powerType === null || !carries.power || carries.power.type === powerType) return carries;
  return { ...carries, power: { type: powerType, deviceW: carries.power.deviceW } };
}

/** A link of which something is otherwise: the check with the least margin after, of those that changed. */
export interface LinkIf {
  label: string;
  before: PlanFinding | null;
  after: PlanFinding | null;
}

/** Links of which something is otherwise, the worst after first, and how many are wrong and close on either side. */
export interface FindingsIf {
  changed: LinkIf[];
  before: { fails: number; close: number };
  after: { fails: number; close: number };
}

/** Two sets of findings of the same links beside each other. */
export function besideEachOther(before: JobFindings, after: JobFindings): FindingsIf {
  const then = new Map(after.links.map(({ label, findings }) => [label, findings]));
  const changed = before.links
    .flatMap(({ label, findings }): LinkIf[] => {
      const change = leastChange(findings, then.get(label) ?? []);
      return change ? [{ label, ...change }] : [];
    })
    .sort((a, b) => marginOf(a.after) - marginOf(b.after));
  return { changed, before: countOf(before), after: countOf(after) };
}

function leastChange(
  before: readonly PlanFinding[],
  after: readonly PlanFinding[],
): Omit<LinkIf, 'label'> | undefined {
  const checks = [...new Set([...after, ...before].map(({ check }) => check))];
  const of = (findings: readonly PlanFinding[], check: string): PlanFinding | null =>
    findings.find((one) => one.check === check) ?? null;
  return checks
    .map((check) => ({ before: of(before, check), after: of(after, check) }))
    .filter((pair) => !same(pair.before, pair.after))
    .sort((a, b) => marginOf(a.after) - marginOf(b.after))[0];
}

/** What is checked no more has nothing against it; what cannot be worked out is told before all. */
const marginOf = (finding: PlanFinding | null): number =>
  finding === null ? Infinity : (finding.margin ?? -Infinity);

const same = (a: PlanFinding | null, b: PlanFinding | null): boolean =>
  a?.verdict === b?.verdict && a?.is === b?.is && a?.limit === b?.limit;

function countOf({ links }: JobFindings): { fails: number; close: number } {
  const of = (verdict: PlanFinding['verdict']): number =>
    links.filter(({ findings }) => findings[0]?.verdict === verdict).length;
  return { fails: of('fails'), close: of('close') };
}
