import type { AdapterDesign } from '../adapters/design.js';
import type { CableType } from '../cabling/cable-types.js';
import type { SchemeId } from '../cabling/schemes.js';
import type { ConnectorType } from '../connectors/connector-types.js';
import type { Diagnosis } from '../continuity/diagnose.js';
import type { Reading } from '../continuity/readings.js';
import type { Carries } from '../links/carry/planned-link.js';
import type { StretchConditions } from '../links/carry/run.js';
import type { RouteStretch } from '../cabling/route-stretch.js';
import type { LinkStage } from '../links/stage.js';
import type { CableWorkKind, Turn } from '../links/standing.js';
import type { UnitSystem } from '../quantities/length.js';
import type { EventKind } from '../reflectometry/events.js';
import type { JobSeal } from '../seal/seal.js';
import type { ReportPartId } from './parts.js';

interface Recorded extends Turn {
  id: string;
  at: string;
  by: string;
  /** When it was done by the clock of the device it waited on; left out where it was sent at once. */
  deviceAt?: string | undefined;
}

/** A photo by its digest: its bytes stand beside the data. */
export interface ReportPhoto {
  sha256: string;
  widthPx: number;
  heightPx: number;
  bytes: number;
}

/** A trace over metres from where it was taken, its launch 1 high, at evenly spaced places; empty where it has no launch. */
export interface ReportTrace extends Recorded {
  end: 'near' | 'far';
  pair: string | null;
  name: string;
  velocityFactor: number;
  from: number;
  to: number;
  seen: number[];
  model: number[];
  events: { kind: EventKind; distanceM: number; u95M: number; probability: number }[];
  /** The event that matters, in the list. */
  main: number | null;
  /** Nothing of ours explains it. */
  unexplained: boolean;
}

/** A lead that goes with the job. */
export interface ReportAdapter {
  id: string;
  version: number;
  at: string;
  by: string;
  design: AdapterDesign;
  builds: {
    name: string;
    version: number;
    at: string;
    by: string;
    verdict: 'proved' | 'failed' | 'unfinished';
    note: string;
  }[];
  photos: { end: string | null; words: string; photo: ReportPhoto }[];
}

/** An end that was made without a job and given to this one. */
export interface ReportLooseEnd {
  id: string;
  at: string;
  by: string;
  name: string;
  cable: string;
  connector: string;
  outcome: 'good' | 'spoiled';
  lot: string;
  tool: string;
  stopgap: string;
  /** What metering it came to; null where nobody did. */
  proof: 'proved' | 'failed' | 'unfinished' | null;
  /** Contacts on which something else was seen than its card had; null where nobody looked. */
  notAsCard: readonly string[] | null;
  functionTest: readonly { what: string; does: boolean | null }[];
  photos: readonly ReportPhoto[];
}

export interface ReportNote extends Recorded {
  end: 'near' | 'far' | null;
  words: string;
  photo: ReportPhoto | null;
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
    tool?: string | undefined;
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
  /** Left out where it was made before there were notes. */
  notes?: ReportNote[] | undefined;
  /** Of a link that failed: each end's and pair's newest, read as a whole. */
  traces?: ReportTrace[] | undefined;
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
  /** Left out where it was made before leads went with jobs. */
  adapters?: readonly ReportAdapter[] | undefined;
  /** Left out where it was made before loose work was told. */
  looseEnds?: readonly ReportLooseEnd[] | undefined;
  /** Over the links that are handed over. */
  seal: JobSeal;
}
