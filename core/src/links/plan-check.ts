import type { CableType } from '../cabling/cable-types.js';
import type { RouteStretch } from '../cabling/route-stretch.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import { checkFit } from '../termination/fit.js';

/** Permanent link limit for balanced copper (ANSI/TIA-568 family, ISO/IEC 11801). */
export const PERMANENT_LINK_LIMIT_M = 90;

/** Loop ohms in a building from which on a telephone run is worth a question (typical). */
export const TELEPHONE_LOOP_OHM = 200;

/** Something in a plan that a person should know before pulling the cable. */
export interface PlanRemark {
  severity: 'wrong' | 'unsure';
  words: string;
}

/** Whether a planned link agrees with itself: its route with its length, its cable with the connectors on it. */
export function checkPlan(plan: {
  cable: CableType;
  near: ConnectorType;
  far: ConnectorType;
  lengthM: number;
  route: readonly RouteStretch[];
}): PlanRemark[] {
  const { cable, lengthM, route } = plan;
  const remarks: PlanRemark[] = [];
  const routeM = route.reduce((sum, stretch) => sum + stretch.lengthM, 0);
  if (route.length > 0 && Math.abs(routeM - lengthM) > 0.5) {
    remarks.push({
      severity: 'unsure',
      words: `The route adds up to ${routeM.toFixed(1)} m, the link says ${lengthM.toFixed(1)} m.`,
    });
  }
  for (const [side, connector] of [
    ['near', plan.near],
    ['far', plan.far],
  ] as const) {
    for (const { what, verdict, words } of checkFit(cable, connector)) {
      if (verdict === 'fits') continue;
      const severity = verdict === 'does not fit' && what !== 'screen' ? 'wrong' : 'unsure';
      const typical =
        cable.source === 'typical' || connector.source === 'typical' ? ' (typical figures)' : '';
      remarks.push({ severity, words: `${capital(side)} end, ${connector.name}: ${words}${typical}.` });
    }
  }
  return remarks;
}

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
