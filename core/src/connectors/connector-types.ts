import { EIGHT_CONTACTS, SCREEN_CONTACT, type ContactId } from '../cabling/schemes.js';

/** One IDC slot of a jack body: where it lies and the contact it feeds. */
export interface JackSlot {
  row: 'left' | 'right';
  /** Place in its row, counted from the cable's side. */
  place: number;
  contact: ContactId;
}

/** A ring or hood that may have to be threaded before the end grows. */
export interface ConnectorPart {
  name: string;
  boreMm: number;
  outsideMm: number;
  lengthMm: number;
}

export type TerminationStyle =
  'plug-closed' | 'plug-pass-through' | 'jack-punched' | 'jack-toolless' | 'other';

/** A generic connector. Figures are `typical` until the sheet in the bag replaces them. */
export interface ConnectorType {
  id: string;
  name: string;
  kind: 'plug' | 'jack' | 'other';
  style: TerminationStyle;
  contacts: readonly ContactId[];
  screened: boolean;
  /** Widest the finished connector gets where a threaded part would have to pass. */
  bodyMm: number;
  jacketMinMm: number;
  jacketMaxMm: number;
  conductorMaxMm: number;
  /** Jacket to be stripped, from the cable's end. */
  stripMm: number;
  /** Conductor length beyond the jacket once trimmed; null where the body trims it. */
  trimMm: number | null;
  slots: readonly JackSlot[];
  parts: readonly ConnectorPart[];
  /** Minutes a practised hand takes. */
  minutes: number;
  source: 'typical' | 'sheet';
}

const slots = (left: string, right: string): JackSlot[] => [
  ...[...left].map((contact, place) => ({ row: 'left' as const, place, contact })),
  ...[...right].map((contact, place) => ({ row: 'right' as const, place, contact })),
];

const withScreen = [...EIGHT_CONTACTS, SCREEN_CONTACT];
const boot = (boreMm: number): ConnectorPart => ({
  name: 'boot',
  boreMm,
  outsideMm: boreMm + 4,
  lengthMm: 24,
});

export const CONNECTOR_TYPES: readonly ConnectorType[] = [
  {
    id: 'plug-closed',
    name: '8-contact plug, closed end',
    kind: 'plug',
    style: 'plug-closed',
    contacts: EIGHT_CONTACTS,
    screened: false,
    bodyMm: 11.7,
    jacketMinMm: 5.0,
    jacketMaxMm: 6.3,
    conductorMaxMm: 1.05,
    stripMm: 30,
    trimMm: 13,
    slots: [],
    parts: [boot(6.5)],
    minutes: 4,
    source: 'typical',
  },
  {
    id: 'plug-pass-through',
    name: '8-contact plug, pass-through',
    kind: 'plug',
    style: 'plug-pass-through',
    contacts: EIGHT_CONTACTS,
    screened: false,
    bodyMm: 11.7,
    jacketMinMm: 5.0,
    jacketMaxMm: 6.5,
    conductorMaxMm: 1.1,
    stripMm: 40,
    trimMm: null,
    slots: [],
    parts: [boot(6.8)],
    minutes: 4,
    source: 'typical',
  },
  {
    id: 'plug-outdoor',
    name: '8-contact plug, outdoor, screened, pass-through',
    kind: 'plug',
    style: 'plug-pass-through',
    contacts: withScreen,
    screened: true,
    bodyMm: 11.7,
    jacketMinMm: 6.5,
    jacketMaxMm: 8.2,
    conductorMaxMm: 1.15,
    stripMm: 42,
    trimMm: null,
    slots: [],
    parts: [boot(9.0), { name: 'screen sleeve', boreMm: 8.2, outsideMm: 9.6, lengthMm: 14 }],
    minutes: 6,
    source: 'typical',
  },
  {
    id: 'jack-punched',
    name: '8-contact jack, punched',
    kind: 'jack',
    style: 'jack-punched',
    contacts: EIGHT_CONTACTS,
    screened: false,
    bodyMm: 16.5,
    jacketMinMm: 4.5,
    jacketMaxMm: 8.5,
    conductorMaxMm: 1.5,
    stripMm: 40,
    trimMm: null,
    slots: slots('5412', '8736'),
    parts: [],
    minutes: 5,
    source: 'typical',
  },
  {
    id: 'jack-toolless',
    name: '8-contact jack, tool-less',
    kind: 'jack',
    style: 'jack-toolless',
    contacts: EIGHT_CONTACTS,
    screened: false,
    bodyMm: 17,
    jacketMinMm: 4.5,
    jacketMaxMm: 8.5,
    conductorMaxMm: 1.5,
    stripMm: 45,
    trimMm: null,
    slots: slots('1245', '3678'),
    parts: [{ name: 'wiring cap', boreMm: 9, outsideMm: 17, lengthMm: 14 }],
    minutes: 4,
    source: 'typical',
  },
  {
    id: 'jack-punched-screened',
    name: '8-contact jack, punched, screened',
    kind: 'jack',
    style: 'jack-punched',
    contacts: withScreen,
    screened: true,
    bodyMm: 17.5,
    jacketMinMm: 5.5,
    jacketMaxMm: 8.5,
    conductorMaxMm: 1.6,
    stripMm: 40,
    trimMm: null,
    slots: slots('5412', '8736'),
    parts: [{ name: 'screen hood tie', boreMm: 12, outsideMm: 14, lengthMm: 4 }],
    minutes: 7,
    source: 'typical',
  },
  {
    id: 'phone-socket',
    name: 'Telephone socket, extension',
    kind: 'other',
    style: 'other',
    contacts: ['a', 'b'],
    screened: false,
    bodyMm: 60,
    jacketMinMm: 3,
    jacketMaxMm: 7,
    conductorMaxMm: 1.1,
    stripMm: 30,
    trimMm: null,
    slots: [],
    parts: [],
    minutes: 6,
    source: 'typical',
  },
  {
    id: 'coax-f',
    name: 'F plug, compression',
    kind: 'other',
    style: 'other',
    contacts: ['C', 'S'],
    screened: true,
    bodyMm: 11,
    jacketMinMm: 6.6,
    jacketMaxMm: 7.1,
    conductorMaxMm: 1.2,
    stripMm: 12.7,
    trimMm: 6.4,
    slots: [],
    parts: [],
    minutes: 3,
    source: 'typical',
  },
  {
    id: 'coax-n',
    name: 'N plug, crimp',
    kind: 'other',
    style: 'other',
    contacts: ['C', 'S'],
    screened: true,
    bodyMm: 20,
    jacketMinMm: 9.8,
    jacketMaxMm: 10.6,
    conductorMaxMm: 2.5,
    stripMm: 22,
    trimMm: 6,
    slots: [],
    parts: [{ name: 'ferrule', boreMm: 11, outsideMm: 12.4, lengthMm: 16 }],
    minutes: 8,
    source: 'typical',
  },
];

/** Slots of a jack as the wiring label shows them: two columns, cable side first. */
export function slotRows(connector: Pick<ConnectorType, 'slots'>): { left: JackSlot[]; right: JackSlot[] } {
  const row = (side: JackSlot['row']): JackSlot[] =>
    connector.slots.filter((slot) => slot.row === side).sort((a, b) => a.place - b.place);
  return { left: row('left'), right: row('right') };
}
