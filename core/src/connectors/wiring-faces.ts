import type { ContactId } from '../cabling/schemes.js';
import { CONTACT_LAYOUTS } from './contact-layouts.js';
import { lookAt, type ContactPlace } from './faces.js';

/** Faces that a person wires, other than the 8-contact plug and the slots of a jack. */
export type WiringFaceId =
  | 'plug-8'
  | 'slots'
  | 'plug-6'
  | 'phone-slots'
  | 'block'
  | 'coax'
  | 'ribbon-10'
  | 'd-sub-9-plug'
  | 'd-sub-9-socket'
  | 'd-sub-15-plug'
  | 'd-sub-25-plug'
  | 'din-5-plug'
  | 'mini-din-8-plug'
  | 'xlr-3-plug'
  | 'xlr-3-socket'
  | 'two-rows-50'
  | 'terminals'
  | 'joint';

/**
 * Each face as the connector whose wiring side it is: where its contacts lie is said once, with the
 * layouts. A ribbon's socket is wired from the side that its header shows in front.
 */
const FACES: Partial<Record<WiringFaceId, string>> = {
  'plug-6': 'modular-6',
  'd-sub-9-plug': 'd-sub-9',
  'd-sub-9-socket': 'mate:d-sub-9',
  'd-sub-15-plug': 'd-sub-15',
  'd-sub-25-plug': 'd-sub-25',
  'din-5-plug': 'din-5',
  'mini-din-8-plug': 'mini-din-8',
  'ribbon-10': 'mate:header-2x5',
  'xlr-3-plug': 'xlr-3',
  'xlr-3-socket': 'mate:xlr-3',
};

/** Contacts as the person wiring them sees them; null where the face is drawn otherwise or is but a point. */
export function wiringFace(face: WiringFaceId): readonly ContactPlace[] | null {
  const id = FACES[face];
  const layout = CONTACT_LAYOUTS.find((each) => each.id === id);
  return layout ? lookAt(layout, { face: 'rear', latch: 'down' }) : null;
}

/** Contacts from left to right and top to bottom, as they are met in reading the face. */
export function readingOrder(places: readonly ContactPlace[]): ContactId[] {
  return [...places].sort((a, b) => b.yMm - a.yMm || a.xMm - b.xMm).map((p) => p.contact);
}
