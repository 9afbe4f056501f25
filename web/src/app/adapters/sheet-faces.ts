/**
 * What a sheet can show, and which face of the lead's own connector that is: the device's connector
 * seen from outside is the picture of the wiring side. The plain names come last, so that of two
 * that mean one face the plain one is shown as chosen.
 */
export const SHEET_FACES: readonly (readonly [face: 'mating' | 'rear', words: string])[] = [
  ['rear', 'the device’s connector, from outside'],
  ['mating', 'the device’s connector, from inside it'],
  ['mating', 'this connector’s mating face'],
  ['rear', 'this connector’s wiring side'],
];
