import type { ContactId } from '../cabling/schemes.js';
import type { ContactPlace } from './faces.js';

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
  | 'joint';

const PITCH_6P_MM = 1.02;
const PITCH_DSUB_MM = 2.77;
const ROW_DSUB_MM = 2.84;
const PITCH_HEADER_MM = 2.54;

const at = (contact: number, xMm: number, yMm: number): ContactPlace => ({
  contact: String(contact),
  xMm,
  yMm,
});

/** Six contacts side by side; held latch down with the cable towards you, contact 1 at the left. */
const plug6 = (): ContactPlace[] =>
  Array.from({ length: 6 }, (_, i) => at(i + 1, (i - 2.5) * PITCH_6P_MM, 0));

/**
 * D-sub from the solder side, long row up. Looking at the pins of a plug, contact 1 is at the upper
 * left; its solder side is the mirror of that, and a socket's solder side the mirror once more.
 */
function dSub(count: number, gender: 'plug' | 'socket'): ContactPlace[] {
  const long = Math.ceil(count / 2);
  const side = gender === 'plug' ? -1 : 1;
  return Array.from({ length: count }, (_, i) => {
    const upper = i < long;
    const x = upper ? i - (long - 1) / 2 : i - long - (count - long - 1) / 2;
    return at(i + 1, side * x * PITCH_DSUB_MM, upper ? ROW_DSUB_MM / 2 : -ROW_DSUB_MM / 2);
  });
}

const ring = (order: readonly number[], fromDeg: number, toDeg: number, radiusMm: number): ContactPlace[] =>
  order.map((contact, i) => {
    const angle = ((fromDeg + ((toDeg - fromDeg) * i) / (order.length - 1)) * Math.PI) / 180;
    return at(contact, radiusMm * Math.cos(angle), radiusMm * Math.sin(angle));
  });

const FACES: Partial<Record<WiringFaceId, () => ContactPlace[]>> = {
  'plug-6': plug6,
  'd-sub-9-plug': () => dSub(9, 'plug'),
  'd-sub-9-socket': () => dSub(9, 'socket'),
  'd-sub-15-plug': () => dSub(15, 'plug'),
  'd-sub-25-plug': () => dSub(25, 'plug'),
  // Facing the pins of a DIN plug, pins up, they run 1-4-2-5-3 from right to left (IEC 60130-9);
  // the solder side is its mirror: from left to right.
  'din-5-plug': () => ring([1, 4, 2, 5, 3], 180, 0, 3.5),
  // A mini-DIN 8 plug from the solder side; the numbers moulded beside the cups win.
  'mini-din-8-plug': () => [
    ...[8, 7, 6].map((c, i) => at(c, (i - 1) * 2.2, 2)),
    ...[5, 4, 3].map((c, i) => at(c, (i - 1) * 2.6, 0)),
    ...[2, 1].map((c, i) => at(c, (i - 0.5) * 2.2, -2)),
  ],
  // A 2x5 socket from the cable side, red edge at the left: odd contacts in one row, even in the other.
  'ribbon-10': () =>
    Array.from({ length: 10 }, (_, i) =>
      at(i + 1, (Math.floor(i / 2) - 2) * PITCH_HEADER_MM, i % 2 === 0 ? 1.27 : -1.27),
    ),
};

/** Contacts as the person wiring them sees them; null where the face is drawn otherwise or is but a point. */
export function wiringFace(face: WiringFaceId): readonly ContactPlace[] | null {
  return FACES[face]?.() ?? null;
}

/** Contacts from left to right and top to bottom, as they are met in reading the face. */
export function readingOrder(places: readonly ContactPlace[]): ContactId[] {
  return [...places].sort((a, b) => b.yMm - a.yMm || a.xMm - b.xMm).map((p) => p.contact);
}
