import type { CableType } from '../../cabling/cable-types.js';
import type { PlanFinding } from './finding.js';
import { planFindings } from './plan-findings.js';
import type { PlannedLink, Surroundings } from './planned-link.js';
import { ORDINARY, type StretchConditions } from './run.js';

/** A stretch of a job's routes, with all that runs in it. */
export interface StretchUse extends StretchConditions {
  /** Labels of the links that run in it, in their order. */
  links: string[];
  /** Cables in it that carry power. */
  fed: number;
  /** The longest piece of it that a link has, metres. */
  lengthM: number;
}

/** The findings of every link of a job, in the order of its links, and its stretches. */
export interface JobFindings {
  links: { label: string; findings: PlanFinding[] }[];
  stretches: StretchUse[];
}

/**
 * Holds all links of a job against what limits them. How many cables lie and are fed in a stretch follows from the
 * links themselves.
 */
export function planJob(
  links: readonly PlannedLink[],
  {
    conditions,
    cables,
    cordM,
  }: { conditions: readonly StretchConditions[]; cables: readonly CableType[]; cordM?: number | undefined },
): JobFindings {
  const stretches = stretchesOf(links, conditions);
  const byName = new Map(stretches.map((stretch) => [stretch.name, stretch]));
  const jackets = new Map<string, number[]>();
  for (const { cable, route } of links)
    for (const { name } of route) jackets.set(name, [...(jackets.get(name) ?? []), cable.jacketMm]);
  const around: Surroundings = {
    conditions,
    cables,
    cordM,
    jacketsIn: (name) => jackets.get(name) ?? [],
    fedIn: (name) => byName.get(name)?.fed ?? 0,
  };
  return {
    links: links.map((link) => ({ label: link.label, findings: planFindings(link, around) })),
    stretches,
  };
}

/** The stretches that a job's links name, in the order they are first met from the hub. */
export function stretchesOf(
  links: readonly Pick<PlannedLink, 'label' | 'route' | 'carries'>[],
  conditions: readonly StretchConditions[],
): StretchUse[] {
  const uses = new Map<string, StretchUse>();
  for (const { label, route, carries } of links)
    for (const { name, lengthM } of route) {
      const known = conditions.find((one) => one.name === name);
      const use = uses.get(name) ?? { ...ORDINARY, ...known, name, links: [], fed: 0, lengthM: 0 };
      if (use.links.at(-1) !== label) {
        use.links.push(label);
        if (carries.power) use.fed++;
      }
      use.lengthM = Math.max(use.lengthM, lengthM);
      uses.set(name, use);
    }
  return [...uses.values()];
}
