import type { CableType } from '../cabling/cable-types.js';
import type { ConnectorType } from '../connectors/connector-types.js';

/** Permanent link limit for balanced copper (ANSI/TIA-568 family, ISO/IEC 11801). */
export const PERMANENT_LINK_LIMIT_M = 90;

/** Something in a plan that a person should know before pulling the cable. */
export interface PlanRemark {
  severity: 'wrong' | 'unsure';
  words: string;
}

/** One named stretch of a link's route, near end first. */
export interface RouteStretch {
  name: string;
  lengthM: number;
}

/** Checks a planned link against the limits that hold for it. */
export function checkPlan(plan: {
  cable: CableType;
  near: ConnectorType;
  far: ConnectorType;
  lengthM: number;
  route: readonly RouteStretch[];
}): PlanRemark[] {
  const { cable, lengthM, route } = plan;
  const remarks: PlanRemark[] = [];
  if (cable.family === 'balanced' && lengthM > PERMANENT_LINK_LIMIT_M) {
    remarks.push({
      severity: 'wrong',
      words: `${lengthM.toFixed(1)} m is over the 90 m limit for a permanent link (ANSI/TIA-568, ISO/IEC 11801).`,
    });
  }
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
    if (cable.jacketMm < connector.jacketMinMm || cable.jacketMm > connector.jacketMaxMm) {
      remarks.push({
        severity: 'wrong',
        words: `${capital(side)} end: ${connector.name} takes a jacket of ${connector.jacketMinMm} to ${connector.jacketMaxMm} mm, this cable has ${cable.jacketMm} mm (typical).`,
      });
    }
    if (cable.conductorMm > connector.conductorMaxMm) {
      remarks.push({
        severity: 'wrong',
        words: `${capital(side)} end: ${connector.name} takes insulated conductors up to ${connector.conductorMaxMm} mm, this cable has ${cable.conductorMm} mm (typical).`,
      });
    }
    if (cable.family === 'balanced' && cable.screened && !connector.screened) {
      remarks.push({
        severity: 'unsure',
        words: `${capital(side)} end: the cable has a screen, ${connector.name} has nowhere to bond it.`,
      });
    }
  }
  return remarks;
}

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);
