import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  expectLink,
  intendedLink,
  observe,
  standingOf,
  type LinkHistory,
  type Reading,
  type TrueLink,
} from '../../src/index.js';
import { REPORT_PARTS } from '../../src/index.js';
import {
  digestOfBytes,
  REPORT_WORDING,
  sealOfReport,
  type ReportData,
  type ReportLink,
} from '../../src/report.js';

const sheet = <T extends { id: string }>(sheets: readonly T[], id: string): T => {
  const found = sheets.find((one) => one.id === id);
  if (!found) throw new Error(`no sheet ${id}`);
  return found;
};
const CABLE = sheet(CABLE_TYPES, 'cat6-u');
const NEAR = sheet(CONNECTOR_TYPES, 'jack-punched');
const FAR = sheet(CONNECTOR_TYPES, 'plug-closed');

const hex = (n: number): string => n.toString(16).padStart(12, '0');
const id = (link: number, what: number): string => `00000000-0000-4000-8000-${hex(1000 * link + what)}`;
const at = (turn: number): string => new Date(Date.UTC(2026, 10, 2, 8, turn)).toISOString();

/** How a link went. */
export type Course = 'planned' | 'made' | 'proved' | 'handed-over' | 'mended' | 'failed';

/** A link's record as a server would have it: every verdict is that of all readings up to it. */
export function reportLink(n: number, course: Course, change: Partial<ReportLink['link']> = {}): ReportLink {
  const expected = expectLink({ cable: CABLE, lengthM: 30 + n, scheme: 'T568B', near: NEAR, far: FAR });
  const sound = intendedLink(expected);
  const crossed: TrueLink = {
    ...sound,
    far: { ...sound.far, '1': sound.far['2'] ?? null, '2': sound.far['1'] ?? null },
  };
  const link: ReportLink = {
    link: {
      id: id(n, 0),
      label: `P1-${String(n).padStart(2, '0')}`,
      stage: 'planned',
      standing: '',
      near: { hub: 'CR-1', panel: 'P1', port: String(n), connectorId: NEAR.id },
      far: { room: `Room ${n}`, outlet: 'desk 1', connectorId: FAR.id },
      cableTypeId: CABLE.id,
      lengthM: 30 + n,
      route: [
        { name: 'tray', lengthM: 20 },
        { name: `bay ${n}`, lengthM: 10 + n },
      ],
      carries: {},
      ...change,
    },
    scheme: 'T568B',
    units: 'metric',
    terminations: [],
    cableWork: [],
    tests: [],
    handovers: [],
    reopenings: [],
    diagnosis: null,
  };
  let turn = 0;
  const head = () => ({ id: id(n, ++turn), turn, at: at(turn), by: turn % 2 ? 'Tobi' : 'Ines' });
  const end = (side: 'near' | 'far'): void => {
    const connectorTypeId = side === 'near' ? NEAR.id : FAR.id;
    link.terminations.push({
      ...head(),
      side,
      connectorTypeId,
      outcome: 'good',
      connectorsSpoiled: 0,
      reason: '',
      lot: '',
      stopgap: '',
      connectorVersion: 1,
      cableVersion: 1,
      corrects: null,
    });
  };
  const read = (reading: Reading): void => {
    const taken = head();
    const test = {
      reading,
      corrects: null,
      misread: '',
      note: '',
      source: 'keyed',
      simulated: false,
    } as const;
    const diagnosis = standingOf(expected, history([...link.tests, { ...taken, ...test }])).diagnosis;
    if (!diagnosis) throw new Error('no verdict');
    link.tests.push({ ...taken, ...test, instrumentName: 'pocket mapper', diagnosis });
  };
  const history = (tests: LinkHistory['tests']): LinkHistory => ({ ...link, tests });
  if (course !== 'planned') {
    end('near');
    end('far');
  }
  if (course === 'mended' || course === 'failed') read(observe(crossed, 'coded-mapper'));
  if (course === 'mended') end('far');
  if (course !== 'planned' && course !== 'made' && course !== 'failed') read(observe(sound, 'coded-mapper'));
  if (course === 'handed-over' || course === 'mended')
    link.handovers.push({ ...head(), testId: link.tests.at(-1)?.id ?? '' });
  const standing = standingOf(expected, history(link.tests));
  link.link.stage = standing.stage;
  link.link.standing = standing.words;
  link.diagnosis = standing.diagnosis;
  return link;
}

/** A link that failed, with a trace of it, a note and a photo of its far end. */
export function notedLink(n: number): ReportLink {
  const link = reportLink(n, 'failed');
  const head = (turn: number) => ({ id: id(n, turn), turn, at: at(turn), by: 'Ines' });
  link.notes = [
    { ...head(40), end: null, words: 'behind the shelf', photo: null },
    { ...head(41), end: 'far', words: 'loop left', photo: { ...PHOTO } },
  ];
  link.traces = [
    {
      ...head(42),
      end: 'near',
      pair: '4-5',
      name: 'pair 4-5.csv',
      velocityFactor: 0.69,
      from: -2,
      to: 40,
      seen: [0, 1, 0.1, 0, 0.8, 0.1, 0],
      model: [0, 1, 0.1, 0, 0.79, 0.1, 0],
      events: [
        { kind: 'joint', distanceM: 4.2, u95M: 0.3, probability: 0.97 },
        { kind: 'open', distanceM: 26.1, u95M: 0.24, probability: 0.999 },
      ],
      main: 1,
      unexplained: false,
    },
  ];
  return link;
}

/** A photo's bytes are what its digest is of. */
export const JPEG = '/9j/AAAA';
export const PHOTO = {
  sha256: digestOfBytes(Uint8Array.from(atob(JPEG), (sign) => sign.charCodeAt(0))),
  widthPx: 640,
  heightPx: 480,
  bytes: 6,
};

/** A report of these links. */
export function someReport(links: readonly ReportLink[], change: Partial<ReportData> = {}): ReportData {
  const job = {
    id: id(0, 0),
    site: 'Salt store',
    title: 'Office floor',
    hub: 'CR-1',
    scheme: 'T568B' as const,
    units: 'metric' as const,
    stretches: [],
  };
  return {
    format: 'near-spoke/report',
    formatVersion: 1,
    wording: REPORT_WORDING,
    made: { at: '2026-11-20T09:30:00.000Z', by: 'Ines' },
    address: 'http://127.0.0.1:8080',
    parts: REPORT_PARTS.map((part) => part.id),
    job,
    links,
    cables: [CABLE],
    connectors: [NEAR, FAR],
    signOffs: [],
    seal: sealOfReport({ job, links }),
    ...change,
  };
}
