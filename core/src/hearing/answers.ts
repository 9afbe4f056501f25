import type { Edge } from './ear.js';

/**
 * What a hand says with a meter's own tone:
 * held for half a second: it beeps; two taps: it is silent (on the own contact or probe to probe, which shows that the meter
 * lives and the probe stands where it should); three taps: the last answer back. Silence alone never answers: nobody
 * can hear whether a probe touches.
 */
export type Said =
  | { say: 'beeps' | 'silent' | 'take back'; atS: number }
  /** One short beep, and nothing after it: it may have been a brush. */
  | { say: 'unsure'; atS: number }
  /** It sounds on and on. */
  | { say: 'stays on'; atS: number };

export const HELD_S = 0.5;
/** Longest tap, and longest time from one to the next. */
const TAP_S = 0.42;
const BETWEEN_S = 0.65;
/** A gap shorter than this is a probe that skips. */
const SKIPS_S = 0.07;
/** A tone that sounds longer than this is stuck. */
const STUCK_S = 8;

/** Makes answers of a tone's comings and goings. Time comes with the sound, so that a pause of the program is none of the hand. */
export class Answering {
  private onS: number | null = null;
  private offS = -Infinity;
  /** When the tap in hand, or the last one, began. */
  private tapFromS = 0;
  /** Taps so far, and whether this sounding was taken as an answer. */
  private taps = 0;
  private answered = false;
  private stuck = false;

  /** What came, up to a time of the sound: that of the last moment heard. */
  take(edges: readonly Edge[], nowS: number): Said[] {
    const said: Said[] = [];
    for (const edge of edges) {
      said.push(...this.until(edge.atS));
      if (edge.kind === 'on') this.comes(edge.atS);
      else this.goes(edge.atS);
    }
    return [...said, ...this.until(nowS)];
  }

  /** Sound was lost: whatever was being said is not known. */
  lost(atS: number): Said[] {
    const begun = this.taps > 0 || (this.onS !== null && !this.answered);
    this.onS = null;
    this.taps = 0;
    this.answered = false;
    return begun ? [{ say: 'unsure', atS }] : [];
  }

  private comes(atS: number): void {
    if (atS - this.offS < SKIPS_S && this.taps > 0 && !this.answered) {
      // The same tap goes on.
      this.taps--;
      this.onS ??= this.tapFromS;
      return;
    }
    if (atS - this.offS < SKIPS_S && this.answered) {
      this.onS = atS;
      return;
    }
    this.onS = atS;
    this.tapFromS = atS;
    this.answered = false;
    this.stuck = false;
  }

  private goes(atS: number): void {
    const from = this.onS;
    this.onS = null;
    this.offS = atS;
    if (this.answered || from === null) return;
    this.taps = atS - from <= TAP_S ? this.taps + 1 : TOO_LONG;
  }

  /** What has become plain by a time. */
  private until(nowS: number): Said[] {
    if (this.onS !== null) {
      const sounds = nowS - this.onS;
      if (!this.answered && sounds >= HELD_S) {
        this.answered = true;
        // A hold after taps is neither.
        const mixed = this.taps > 0;
        this.taps = 0;
        return [{ say: mixed ? 'unsure' : 'beeps', atS: nowS }];
      }
      if (this.answered && !this.stuck && sounds >= STUCK_S) {
        this.stuck = true;
        return [{ say: 'stays on', atS: nowS }];
      }
      return [];
    }
    if (this.taps === 0 || nowS - this.offS < BETWEEN_S) return [];
    const { taps } = this;
    this.taps = 0;
    return [{ say: taps === 2 ? 'silent' : taps === 3 ? 'take back' : 'unsure', atS: nowS }];
  }
}

/** A beep between a tap and a hold is neither; with it no number of taps is right. */
const TOO_LONG = 99;
