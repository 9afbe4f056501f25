import type { CableType } from '../cabling/cable-types.js';
import type { SchemeId } from '../cabling/schemes.js';
import { followsScheme, type ConnectorType } from '../connectors/connector-types.js';

/** What a person may do one way or the other. */
export interface Choices {
  scheme: SchemeId;
  ringingWire: boolean;
  centrePin: 'crimped' | 'soldered';
  /** Flat cord with a plug on both ends: the end that lies turned over. */
  flatEnd: 'first' | 'rolled';
}

export const USUAL_CHOICES: Choices = {
  scheme: 'T568B',
  ringingWire: false,
  centrePin: 'crimped',
  flatEnd: 'first',
};

/** A question on which good practitioners differ. */
export interface School {
  id: string;
  question: string;
  /** What we do unless told otherwise, and why. */
  ours: string;
  other: string;
  /** The choice this is about, where the card can be made either way. */
  choice: { key: keyof Choices; ours: Choices[keyof Choices]; other: Choices[keyof Choices] } | null;
  concerns: (cable: CableType, connector: ConnectorType) => boolean;
}

export const SCHOOLS: readonly School[] = [
  {
    id: 'scheme',
    question: 'T568A or T568B',
    ours: 'The job’s scheme; B where nothing is said. What counts is that both ends, and the building, are alike.',
    other: 'A where the building has it already, or the contract names it. Never mixed in one building.',
    choice: null,
    concerns: (_, connector) => followsScheme(connector),
  },
  {
    id: 'pass-through',
    question: 'Closed or pass-through plug',
    ours: 'Either. Pass-through lets the order be read outside the plug before it is crimped.',
    other:
      'Closed where the plug carries power for long or must meet a strict category: no cut ends stand at the front.',
    choice: null,
    concerns: (_, connector) => connector.group === 'modular plug' && connector.assignment === 'scheme',
  },
  {
    id: 'centre-pin',
    question: 'Crimped or soldered centre pin',
    ours: 'Crimped: the same every time, and no solder wicks under the insulation.',
    other:
      'Soldered where there is no pin die: little solder, through the hole, none on the outside of the pin.',
    choice: { key: 'centrePin', ours: 'crimped', other: 'soldered' },
    concerns: (_, connector) =>
      connector.recipe === 'coax-crimp' && connector.tools.some((t) => t.kind === 'pin crimp tool'),
  },
  {
    id: 'ringing-wire',
    question: 'Two wires, or the ringing wire too',
    ours: 'Two wires: telephones made in the last thirty years need no more, and a third wire picks up noise.',
    other: 'With the ringing wire on 3 where an old bell telephone must ring.',
    choice: { key: 'ringingWire', ours: false, other: true },
    concerns: (_, connector) => connector.assignment === 'british',
  },
  {
    id: 'flat-cord',
    question: 'First end of a flat cord, or the rolled one',
    ours: 'The first end, black at the lowest contact that is used.',
    other:
      'The other end of a telephone cord: both latches on the same face of the cord, so the order is turned over (rolled), as sockets in the wall expect. For data, and for a cord in series with another, latches on opposite faces: both ends alike.',
    choice: { key: 'flatEnd', ours: 'first', other: 'rolled' },
    concerns: (cable, connector) => connector.assignment === 'modular-6' && cable.family === 'multicore',
  },
  {
    id: 'drain',
    question: 'Screen bonded at both ends or at one',
    ours: 'Both ends for data cable in one building with one earth: that is what its screen is made for.',
    other:
      'The hub end only where the ends have different earths, and for slow analogue signals. Ask who answers for the bonding.',
    choice: null,
    concerns: (cable, connector) => cable.screened && connector.screened && connector.group !== 'coax',
  },
];

/** The schools that matter for an end. */
export const schoolsFor = (cable: CableType, connector: ConnectorType): School[] =>
  SCHOOLS.filter((school) => school.concerns(cable, connector));
