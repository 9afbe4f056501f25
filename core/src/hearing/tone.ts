/** A meter's tone as it was taught. */
export type Tone = (
  | {
      kind: 'steady';
      /** One pitch, or two at once, Hz. */
      pitchesHz: readonly number[];
    }
  | {
      /** It sweeps or warbles: the share of its power in each bin of a short frame, from the lowest bin on. */
      kind: 'moving';
      shares: readonly number[];
    }
) & {
  /** Mean square of its samples while it sounds. */
  power: number;
  /** How many times the noise about it that is. */
  overNoise: number;
};

/** A tone's pitch in words of a person: the strongest, kHz. */
export const pitchWords = (tone: Tone): string =>
  tone.kind === 'steady' ? `${((tone.pitchesHz[0] ?? 0) / 1000).toFixed(2)} kHz` : 'a moving tone';
