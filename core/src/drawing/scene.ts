/** What a shape is of; a painter knows how that looks where it paints. */
export type SceneRole = 'body' | 'hidden-body' | 'socket-body' | 'latch' | 'metal' | 'jacket' | 'slot';

/** One thing that is drawn. What lies later lies over what lies before. */
export type SceneShape =
  | { is: 'outline'; d: string; as: SceneRole }
  | { is: 'box'; x: number; y: number; width: number; height: number; round: number; as: SceneRole }
  /** A length of insulated conductor along a path, bands and all. */
  | { is: 'wire'; d: string; conductor: string; width: number }
  /** A piece of its insulation as a sample. */
  | { is: 'sample'; x: number; y: number; width: number; height: number; conductor: string }
  /** A contact under its name, and in small what is on it; stands upright however the scene is turned. */
  | {
      is: 'contact';
      x: number;
      y: number;
      width: number;
      height: number;
      contact: string;
      /** Above the middle. */
      contactY: number;
      /** Null where it stands beside, as words of its own. */
      code: { words: string; y: number; empty: boolean } | null;
      sample: { conductor: string; y: number; width: number; height: number } | null;
    }
  | {
      is: 'words';
      x: number;
      y: number;
      words: string;
      as: 'code' | 'on-jacket';
      anchor: 'start' | 'middle' | 'end';
    };

/** A picture that is made once, and painted wherever it is wanted. Its units are its own; y runs down. */
export interface Scene {
  x: number;
  y: number;
  width: number;
  height: number;
  /** Turned as a whole about its origin, clockwise; contacts and words stay upright. */
  turnDeg: number;
  shapes: readonly SceneShape[];
  /** For who cannot see it. */
  words: string;
  /** How it is held, to be said below it. */
  note: string;
}
