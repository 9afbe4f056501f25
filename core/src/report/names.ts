import { INSTRUMENTS, type InstrumentClass } from '../continuity/instruments.js';
import type { ReportData } from './report-data.js';

/** What cables and connectors are called, by their ids; one that no sheet names is called by its id. */
export interface Names {
  cable: (id: string) => string;
  connector: (id: string) => string;
}

export function namesOf({ cables, connectors }: Pick<ReportData, 'cables' | 'connectors'>): Names {
  const cable = new Map(cables.map(({ id, name }) => [id, name]));
  const connector = new Map(connectors.map(({ id, name }) => [id, name]));
  return { cable: (id) => cable.get(id) ?? id, connector: (id) => connector.get(id) ?? id };
}

export const instrumentName = (id: InstrumentClass): string => INSTRUMENTS[id].name;

/** Labels, panels and ports in the order a person counts: P1-9 before P1-10. */
export const countingOrder = (a: string, b: string): number => a.localeCompare(b, 'en', { numeric: true });
