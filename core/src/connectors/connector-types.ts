import type { ContactId } from '../cabling/schemes.js';
import type { WiringFaceId } from './wiring-faces.js';

/** One slot of an IDC body: where it lies and the contact it feeds. */
export interface JackSlot {
  row: 'left' | 'right';
  /** Place in its row, counted from the cable's side. */
  place: number;
  contact: ContactId;
}

export type PartKind =
  | 'boot'
  | 'ferrule'
  | 'cap'
  | 'hood'
  | 'tie'
  | 'sleeve'
  | 'nut'
  | 'heat-shrink'
  | 'solder-sleeve'
  | 'strain-relief'
  | 'load-bar';

/** A part that comes with a connector and goes round the cable. */
export interface ConnectorPart {
  name: string;
  kind: PartKind;
  boreMm: number;
  outsideMm: number;
  lengthMm: number;
  /** What it must pass over on its way: the whole cable, or one opened conductor; `end` is put on the bared or ordered end when its step comes. */
  over: 'jacket' | 'core' | 'end';
  /** Opens along its length, so that it can be put on at any time. */
  split: boolean;
  /** The connector holds and conducts without it. */
  optional: boolean;
}

/** A closed part that goes on before the end grows; one that opens, or is put on the end itself, never has to. */
export const isThreaded = ({ split, over }: Pick<ConnectorPart, 'split' | 'over'>): boolean =>
  !split && over !== 'end';

/** From the smallest to the largest that fits, in millimetres. */
export interface Span {
  min: number;
  max: number;
}

/** What a connector is made for; null is "the sheet in the bag does not say here". */
export interface Takes {
  jacketMm: Span | null;
  /** One conductor over its insulation. */
  conductorMm: Span | null;
  dielectricMm: Span | null;
  /** Bare metal: a coax centre, or the strands in a cup or a barrel. */
  bareMm: Span | null;
  /** Thickest and thinnest gauge. */
  awg: { thickest: number; thinnest: number } | null;
  wire: 'solid' | 'stranded' | 'either' | null;
}

/** Lengths from the cable's end, in millimetres; null where that layer is not cut. */
export interface StripFigures {
  jacketMm: number;
  screenMm: number | null;
  /** Dielectric of coax, or the insulation of each conductor. */
  insulationMm: number | null;
  /** Conductor left beyond the jacket once trimmed; null where the body trims it. */
  trimMm: number | null;
  /** What a length may be off and still do; by the group where the sheet does not say. */
  toleranceMm?: number | undefined;
}

export type ToolKind =
  | 'jacket stripper'
  | 'coax stripper'
  | 'wire stripper'
  | 'side cutters'
  | 'flush cutters'
  | 'modular crimp tool'
  | 'insertion tool'
  | 'flat-jawed pliers'
  | 'hex crimp tool'
  | 'pin crimp tool'
  | 'compression tool'
  | 'splice crimp tool'
  | 'ribbon press'
  | 'soldering iron'
  | 'heat gun'
  | 'knife'
  | 'screwdriver'
  | 'spanner'
  | 'ferrule crimp tool'
  | 'two-row press';

/** A tool a connector asks for; the size is the die, adapter, blade or cavity, where it matters. */
export interface ToolNeed {
  kind: ToolKind;
  size: string | null;
}

export type ConnectorGroup =
  | 'modular plug'
  | 'jack'
  | 'panel and block'
  | 'telephone socket'
  | 'coax'
  | 'ribbon'
  | 'solder cup'
  | 'terminal'
  | 'splice';

export type RecipeId =
  | 'plug-closed'
  | 'plug-pass-through'
  | 'jack-punched'
  | 'jack-toolless'
  | 'telephone-socket'
  | 'block'
  | 'coax-crimp'
  | 'coax-compression'
  | 'coax-screw-on'
  | 'coax-clamp'
  | 'terminal'
  | 'pairs-pressed'
  | 'ribbon-press'
  | 'solder-cup'
  | 'splice-solder-sleeve'
  | 'splice-solder'
  | 'splice-crimp'
  | 'splice-gel';

/** How conductors are given to contacts. */
export type AssignmentId =
  | 'scheme'
  | 'scheme-m12'
  | 'modular-6'
  | 'british'
  | 'pair-count'
  | 'pair-rows'
  | 'ribbon'
  | 'one-to-one'
  | 'screen-first'
  | 'bus'
  | 'coax'
  | 'same-colour';

/** A generic connector. Figures are `typical` until the sheet in the bag replaces them. */
export interface ConnectorType {
  id: string;
  name: string;
  group: ConnectorGroup;
  kind: 'plug' | 'jack' | 'other';
  recipe: RecipeId;
  assignment: AssignmentId;
  face: WiringFaceId;
  /** What a continuity test meets at this end. */
  contacts: readonly ContactId[];
  screened: boolean;
  /** Widest the finished connector gets where a threaded part would have to pass. */
  bodyMm: number;
  /** The tail that a ferrule or sleeve is brought over, screen included; null where there is none. */
  stemMm: number | null;
  takes: Takes;
  strip: StripFigures;
  slots: readonly JackSlot[];
  /** Nearest the connector first. */
  parts: readonly ConnectorPart[];
  tools: readonly ToolNeed[];
  /** Coax: the impedance its body is made for; left out where it is made for none, as a phono plug is. */
  impedanceOhm?: number | undefined;
  /** Coax: what the middle of the finished plug is: a pin put on, the cable's own centre, or a hollow tip that it is soldered into. */
  centre?: 'pin' | 'own' | 'hollow tip' | undefined;
  /** Terminals: what holds the wire. */
  hold?: 'screw' | 'spring' | undefined;
  /** Coax: mated by a nut, which is done up snug or to its torque. */
  nutted?: true | undefined;
  /** Where each number lies differs by maker: the figures moulded on it and the sheet in the bag decide. */
  sheetDecides?: true | undefined;
  /** Minutes a practised hand takes. */
  minutes: number;
  source: 'typical' | 'sheet';
}

/** Whether its order is the job's scheme, in the numbers of an 8-contact plug or in its own. */
export const followsScheme = ({ assignment }: Pick<ConnectorType, 'assignment'>): boolean =>
  assignment === 'scheme' || assignment === 'scheme-m12';

/** What a strip length may be off, by the kind of connector, where its sheet does not say (typical), millimetres. */
const STRIP_TOLERANCE_MM: Readonly<Record<ConnectorGroup, number>> = {
  coax: 0.5,
  'solder cup': 0.5,
  ribbon: 0.5,
  'modular plug': 1,
  splice: 1,
  terminal: 1,
  jack: 3,
  'panel and block': 5,
  'telephone socket': 5,
};

export const stripToleranceMm = ({ strip, group }: Pick<ConnectorType, 'strip' | 'group'>): number =>
  strip.toleranceMm ?? STRIP_TOLERANCE_MM[group];

/** Slots of a body as its wiring label shows them: two columns, cable side first. */
export function slotRows(connector: Pick<ConnectorType, 'slots'>): { left: JackSlot[]; right: JackSlot[] } {
  const row = (side: JackSlot['row']): JackSlot[] =>
    connector.slots.filter((slot) => slot.row === side).sort((a, b) => a.place - b.place);
  return { left: row('left'), right: row('right') };
}

const LINK_FACES: readonly WiringFaceId[] = ['plug-8', 'slots', 'coax', 'phone-slots'];

/** Whether a link of a job may end in this connector; the others belong to leads, blocks and splices. */
export const endsALink = (connector: Pick<ConnectorType, 'face'>): boolean =>
  LINK_FACES.includes(connector.face);
