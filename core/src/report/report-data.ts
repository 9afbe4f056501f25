import type { CableType } from '../cabling/cable-types.js';
import type { SchemeId } from '../cabling/schemes.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import type { Diagnosis } from '../continuity/diagnose.js';
import type { Reading } from '../continuity/readings.js';
import type { Carries } from '../links/carry/planned-link.js';
import type { StretchConditions } from '../links/carry/run.js';
import type { RouteStretch } from '../links/plan-check.js';
import type { LinkStage } from '../links/stage.js';
import type { CableWorkKind, Turn } from '../links/standing.js';
import type { UnitSystem } from '../quantities/length.js';
import type { JobSeal } from '../seal/seal.js';
import type { ReportPartId } from './parts.js';

interface Recorded extends Turn {
  id: string;
  at: string;
  by: string;
}

/** A link with its whole record and the verdict of it, as a report tells it. */
export interface ReportLink {
  link: {
    id: string;
    label: string;
    stage: LinkStage;
    standing: string;
    near: { hub: string; panel: string; port: string; connectorId: string };
    far: { room: string; outlet: string; connectorId: string };
    cableTypeId: string;
    lengthM: number;
    route: RouteStretch[];
    carries: Carries;
  };
  scheme: SchemeId;
  units: UnitSystem;
  terminations: (Recorded & {
    side: 'near' | 'far';
    connectorTypeId: string;
    outcome: 'good' | 'spoiled';
    connectorsSpoiled: number;
    reason: string;
    lot: string;
    stopgap: string;
    connectorVersion: number;
    cableVersion: number;
    corrects: string | null;
  })[];
  cableWork: (Recorded & { kind: CableWorkKind; atM: number | null; note: string })[];
  tests: (Recorded & {
    source: 'instrument' | 'keyed';
    simulated: boolean;
    instrumentName: string;
    reading: Reading;
    diagnosis: Diagnosis;
    corrects: string | null;
    misread: string;
    note: string;
  })[];
  handovers: (Recorded & { testId: string })[];
  reopenings: (Recorded & { reason: string })[];
  diagnosis: Diagnosis | null;
}

/** Who accepted what was handed over. */
export interface ReportSignOff {
  at: string;
  name: string;
  role: string;
  note: string;
  digest: string;
  links: number;
}

/** All that a report is made from: whoever has it can make the report again, and check it. */
export interface ReportData {
  format: 'near-spoke/report';
  formatVersion: 1;
  /** By which words and drawings it was made (`REPORT_WORDING`). */
  wording: number;
  made: { at: string; by: string };
  /** Where the application that made it is reached; empty where that was not known. */
  address: string;
  parts: readonly ReportPartId[];
  job: {
    id: string;
    site: string;
    title: string;
    hub: string;
    scheme: SchemeId;
    units: UnitSystem;
    stretches: readonly StretchConditions[];
  };
  links: readonly ReportLink[];
  /** Sheets of the cables and connectors that the links name. */
  cables: readonly CableType[];
  connectors: readonly ConnectorType[];
  signOffs: readonly ReportSignOff[];
  /** Over the links that are handed over. */
  seal: JobSeal;
}
