import { Answering, Ear, learnTone, type Edge, type Said, type Tone } from '@near-spoke/core/hearing';
import { beep, BEEPERS, noise, NOISES, SAMPLE_HZ, type Beeper, type Noise } from './sounds.js';
import { hear, taughtBy } from './trial.js';

const LOUD = 0.05;
const [, PIEZO] = BEEPERS as [Beeper, Beeper];
const taught = (beeper: Beeper = PIEZO): Tone => {
  const tone = taughtBy(beeper, LOUD);
  if (!tone) throw new Error(`${beeper.name} was not taught.`);
  return tone;
};
/** Touches in a room: from and to, seconds; the room so many decibels under the tone. */
function sound(
  seconds: number,
  touches: readonly (readonly [number, number])[],
  room: Noise = 'quiet',
  underDb = 20,
): Float32Array {
  const rms = (LOUD / Math.SQRT2) * 10 ** (-underDb / 20);
  const out = noise(room, seconds, 9).map((x) => x * rms);
  for (const [from, to] of touches) beep(out, PIEZO, from, to, LOUD);
  return out;
}
const said = (samples: Float32Array): Said['say'][] => hear(taught(), samples).said.map(({ say }) => say);

describe('a meter’s tone', () => {
  it('is learned from three touches, whatever kind it is of', () => {
    for (const beeper of BEEPERS) {
      const tone = taughtBy(beeper, LOUD);
      expect(tone).withContext(beeper.name).not.toBeNull();
      if (tone?.kind !== 'steady' || beeper.name.includes('warble')) continue;
      const wanted = beeper.hz.map((at) => at(0.3)).sort();
      const got = [...tone.pitchesHz].sort();
      expect(got.length).withContext(beeper.name).toBe(wanted.length);
      got.forEach((hz, n) => expect(Math.abs(hz / (wanted[n] as number) - 1)).toBeLessThan(0.003));
    }
  });

  it('is learned beside a fan and beside people who talk', () => {
    for (const room of ['fan', 'voices'] as const)
      expect(taughtBy(PIEZO, LOUD, room, LOUD / 4, 3)?.kind)
        .withContext(room)
        .toBe('steady');
  });

  it('is not learned from two touches, from clicks, or from noise alone', () => {
    const of = (touches: readonly (readonly [number, number])[]): string => {
      const learned = learnTone(sound(6, touches, 'quiet', 30), SAMPLE_HZ);
      return learned.say === 'waiting' ? `${learned.touches} ${learned.trouble}` : learned.say;
    };
    expect(
      of([
        [1, 1.6],
        [2.5, 3.1],
      ]),
    ).toBe('2 null');
    expect(
      of([
        [1, 1.05],
        [2, 2.05],
        [3, 3.05],
        [4, 4.05],
      ]),
    ).not.toBe('taught');
    for (const room of NOISES.filter((each) => each !== 'another meter'))
      expect(
        learnTone(
          noise(room, 9, 4).map((x) => x * LOUD),
          SAMPLE_HZ,
        ).say,
      )
        .withContext(room)
        .toBe('waiting');
  });
});

describe('an ear', () => {
  it('knows of a touch within 150 ms, and when it was to a hundredth or two', () => {
    const tone = taught();
    for (const room of NOISES) {
      const ear = new Ear(tone, SAMPLE_HZ);
      const { edges } = ear.hear(
        sound(
          4,
          [
            [1.3, 2.1],
            [2.9, 3.4],
          ],
          room,
          3,
        ),
      );
      const on = edges.filter(({ kind }) => kind === 'on');
      expect(on.length).withContext(room).toBe(2);
      [1.3, 2.9].forEach((from, n) => {
        expect((on[n]?.saidS ?? 9) - from)
          .withContext(room)
          .toBeLessThan(0.15);
        expect(Math.abs((on[n]?.atS ?? 9) - from))
          .withContext(room)
          .toBeLessThan(0.025);
      });
      const off = edges.filter(({ kind }) => kind === 'off');
      [2.1, 3.4].forEach((to, n) =>
        expect(Math.abs((off[n]?.atS ?? 9) - to))
          .withContext(room)
          .toBeLessThan(0.04),
      );
    }
  });

  it('takes no noise as loud as the tone for an answer, of whichever kind', () => {
    for (const tone of [taught(), taught(BEEPERS.find(({ name }) => name === 'chirp'))])
      for (const room of NOISES) {
        const heard = hear(
          tone,
          noise(room, 20, 21).map((x) => (x * LOUD) / Math.SQRT2),
        );
        expect(heard.said.filter(({ say }) => say !== 'unsure'))
          .withContext(`${tone.kind}, ${room}`)
          .toEqual([]);
      }
  });

  it('does not take another meter’s pitch for its own, and hears its own beside that', () => {
    const other: Beeper = { name: 'other', hz: [() => 2950] };
    const out = sound(4, [[2, 2.7]]);
    beep(out, other, 0.5, 1.4, LOUD);
    expect(said(out)).toEqual(['beeps']);
  });

  it('gives the same however the samples come in pieces', () => {
    const out = sound(3, [[1, 1.8]]);
    const whole = new Ear(taught(), SAMPLE_HZ).hear(out).edges;
    const ear = new Ear(taught(), SAMPLE_HZ);
    const parts: Edge[] = [];
    for (let from = 0; from < out.length; from += 777)
      parts.push(...ear.hear(out.subarray(from, from + 777)).edges);
    expect(parts).toEqual(whole);
  });
});

describe('what hands say with a meter', () => {
  it('is beeps where it is held, silent where it is tapped twice, and the last one back after three taps', () => {
    expect(said(sound(3, [[1, 1.9]]))).toEqual(['beeps']);
    expect(
      said(
        sound(3, [
          [1, 1.15],
          [1.4, 1.55],
        ]),
      ),
    ).toEqual(['silent']);
    expect(
      said(
        sound(4, [
          [1, 1.12],
          [1.4, 1.5],
          [1.8, 1.95],
        ]),
      ),
    ).toEqual(['take back']);
  });

  it('is nothing while nobody touches: silence is no answer', () => {
    expect(said(sound(20, []))).toEqual([]);
  });

  it('is asked for again after one short beep, and after taps that end in a hold', () => {
    expect(said(sound(3, [[1, 1.2]]))).toEqual(['unsure']);
    expect(
      said(
        sound(4, [
          [1, 1.15],
          [1.4, 2.4],
        ]),
      ),
    ).toEqual(['unsure']);
  });

  it('is one touch where a probe skips', () => {
    expect(
      said(
        sound(3, [
          [1, 1.2],
          [1.23, 1.9],
        ]),
      ),
    ).toEqual(['beeps']);
  });

  it('is said once however long it sounds, and that it stays on is told', () => {
    expect(said(sound(12, [[1, 11]]))).toEqual(['beeps', 'stays on']);
  });

  it('is not known where sound was lost in the middle', () => {
    const answering = new Answering();
    answering.take([{ kind: 'on', atS: 1, saidS: 1.05 }], 1.1);
    expect(answering.lost(1.2)).toEqual([{ say: 'unsure', atS: 1.2 }]);
    expect(answering.take([], 3)).toEqual([]);
    expect(answering.lost(4)).toEqual([]);
  });

  it('stays the same in a drill’s and a talker’s noise', () => {
    const hands = [
      [1, 1.9],
      [3, 3.15],
      [3.4, 3.55],
      [5.2, 6],
    ] as const;
    for (const room of ['drill', 'voices', 'fan'] as const)
      expect(said(sound(8, hands, room, 0)))
        .withContext(room)
        .toEqual(['beeps', 'silent', 'beeps']);
  });
});
