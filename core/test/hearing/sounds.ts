/**
 * Workshops of sound, sample by sample, for what listens: beepers, noises and hands. Nothing in here is shared with what hears
 * them: tones are summed phases, noises filtered chance, voices pulses through resonances.
 */
export const SAMPLE_HZ = 48_000;

/** A seeded stream of uniform numbers (xorshift). */
export function chance(seed: number): () => number {
  let x = (seed * 2654435761 + 1013904223) >>> 0 || 1;
  const next = (): number => {
    x ^= x << 13;
    x >>>= 0;
    x ^= x >>> 17;
    x ^= x << 5;
    x >>>= 0;
    return x / 4294967296;
  };
  for (let n = 0; n < 8; n++) next();
  return next;
}
const gauss = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(Math.max(1e-12, random()))) * Math.cos(2 * Math.PI * random());

export interface Beeper {
  name: string;
  /** Momentary frequency by seconds since it began; several at once. */
  hz: readonly ((t: number) => number)[];
}
const warble = (from: number, to: number, times: number) => (t: number) =>
  (t * times) % 1 < 0.5 ? from : to;
const chirp = (from: number, to: number, times: number) => (t: number) =>
  from + (to - from) * ((t * times) % 1);
export const BEEPERS: readonly Beeper[] = [
  { name: '1.5 kHz', hz: [() => 1520] },
  { name: '2.4 kHz', hz: [() => 2411] },
  { name: '2.8 kHz, its cell running down', hz: [(t) => 2810 - 6 * t] },
  { name: '4.1 kHz', hz: [() => 4096] },
  { name: '5 kHz', hz: [() => 4987] },
  { name: 'two tones at once', hz: [() => 2010, () => 2790] },
  { name: 'warble of two tones', hz: [warble(2300, 2900, 12)] },
  { name: 'chirp', hz: [chirp(2500, 3300, 11)] },
];

/** Adds a beeper's sound from one second to another, its amplitude and a piezo's rise and fall of some milliseconds. */
export function beep(
  into: Float32Array,
  { hz }: Beeper,
  fromS: number,
  toS: number,
  amplitude: number,
): void {
  const phases = hz.map(() => 0);
  const first = Math.round(fromS * SAMPLE_HZ);
  const last = Math.min(into.length, Math.round(toS * SAMPLE_HZ));
  for (let n = first; n < last; n++) {
    const t = (n - first) / SAMPLE_HZ;
    const rise = Math.min(1, t / 0.004, (last - n) / SAMPLE_HZ / 0.004);
    hz.forEach((at, each) => {
      phases[each] = (phases[each] as number) + (2 * Math.PI * at(t)) / SAMPLE_HZ;
      into[n] =
        (into[n] as number) + (amplitude / Math.sqrt(hz.length)) * rise * Math.sin(phases[each] as number);
    });
  }
}

export type Noise = 'quiet' | 'pink' | 'fan' | 'drill' | 'voices' | 'another meter';
export const NOISES: readonly Noise[] = ['quiet', 'pink', 'fan', 'drill', 'voices', 'another meter'];

/** Noise of a kind, its root mean square one. */
export function noise(kind: Noise, seconds: number, seed: number): Float32Array {
  const random = chance(seed);
  const out = new Float32Array(Math.round(seconds * SAMPLE_HZ));
  if (kind === 'pink') pink(out, random);
  else if (kind === 'fan') fan(out, random);
  else if (kind === 'drill') drill(out, random);
  else if (kind === 'voices') for (let n = 0; n < 3; n++) voice(out, random);
  else if (kind === 'another meter') {
    for (let t = 0; t < seconds; t += 1 + 4 * random())
      beep(out, { name: '', hz: [() => 3150] }, t, t + 0.1 + random(), 1);
    for (let n = 0; n < out.length; n++) out[n] = (out[n] as number) + 0.05 * gauss(random);
  } else for (let n = 0; n < out.length; n++) out[n] = gauss(random);
  const rms = Math.sqrt(out.reduce((sum, x) => sum + x * x, 0) / out.length);
  return out.map((x) => x / rms);
}

/** Noise that falls by 3 dB an octave: a sum of five slower and slower chances. */
function pink(out: Float32Array, random: () => number): void {
  const rows = new Float64Array(12);
  for (let n = 0; n < out.length; n++) {
    for (let row = 0; row < rows.length; row++) if (n % 2 ** row === 0) rows[row] = gauss(random);
    out[n] = rows.reduce((sum, x) => sum + x, gauss(random));
  }
}

/** Air, and a blade's hum with its overtones, which stay. */
function fan(out: Float32Array, random: () => number): void {
  let low = 0;
  const turns = 140 + 20 * random();
  for (let n = 0; n < out.length; n++) {
    low = 0.93 * low + gauss(random);
    let hum = 0;
    for (let h = 1; h <= 12; h++) hum += Math.sin((2 * Math.PI * turns * h * n) / SAMPLE_HZ + h) / h;
    out[n] = low + 2 * hum;
  }
}

/** Gears: overtones of a turning speed that rises, wanders under load and stops, under rattle. */
function drill(out: Float32Array, random: () => number): void {
  let [speed, phase, until, on] = [0, 0, 0, false];
  let [wander, low] = [0, 0];
  for (let n = 0; n < out.length; n++) {
    if (n >= until) {
      on = !on;
      until = n + SAMPLE_HZ * (on ? 0.8 + 3 * random() : 0.3 + 2 * random());
    }
    wander = 0.9999 * wander + 0.01 * gauss(random);
    const wanted = on ? 430 * (1 + 0.04 * wander) : 0;
    speed += (wanted - speed) / (0.15 * SAMPLE_HZ);
    phase += (2 * Math.PI * speed) / SAMPLE_HZ;
    low = 0.6 * low + gauss(random);
    let sum = 0;
    for (let h = 1; h <= 14; h++) sum += Math.sin(h * phase + h * h) / Math.sqrt(h);
    out[n] = (speed / 430) * (sum + 1.2 * low) + 0.02 * gauss(random);
  }
}

/** Somebody talking: pulses of a voice that glides, and hiss, through three resonances that move from sound to sound. */
function voice(out: Float32Array, random: () => number): void {
  let until = 0;
  let [voiced, hiss, pitch, phase] = [0, 0, 120, 0];
  const basis = 95 + 130 * random();
  const state = Array.from({ length: 4 }, () => ({ a: 0, b: 0, hz: 500, width: 80 }));
  for (let n = 0; n < out.length; n++) {
    if (n >= until) {
      until = n + SAMPLE_HZ * (0.05 + 0.2 * random());
      const kind = random();
      voiced = kind < 0.6 ? 1 : 0;
      hiss = kind > 0.6 && kind < 0.8 ? 0.5 : voiced * 0.03;
      const centres = [
        300 + 500 * random(),
        900 + 1400 * random(),
        2300 + 900 * random(),
        3400 + 600 * random(),
      ];
      state.forEach((each, k) => {
        each.hz = centres[k] as number;
        each.width = 60 + 60 * k;
      });
      pitch = basis * (0.85 + 0.5 * random());
    }
    pitch *= 1 + 2e-6 * gauss(random);
    phase += pitch / SAMPLE_HZ;
    let source = hiss * gauss(random);
    if (phase >= 1) {
      phase -= 1;
      source += 12 * voiced;
    }
    let sum = 0;
    for (const each of state) {
      const r = Math.exp((-Math.PI * each.width) / SAMPLE_HZ);
      const y = source + 2 * r * Math.cos((2 * Math.PI * each.hz) / SAMPLE_HZ) * each.a - r * r * each.b;
      each.b = each.a;
      each.a = y;
      sum += y;
    }
    out[n] = (out[n] as number) + sum;
  }
}

/** Mean square of noise in the band that a beeper's pitch lies in, by hertz. */
export function densityAt(samples: Float32Array, hz: number): number {
  // A narrow resonance listens for a second, in steps of its own length.
  const length = 4800;
  let [sum, count] = [0, 0];
  for (let from = 0; from + length <= Math.min(samples.length, 20 * SAMPLE_HZ); from += length) {
    for (const at of [hz - 40, hz, hz + 40]) {
      let [re, im] = [0, 0];
      for (let n = 0; n < length; n++) {
        const turn = (2 * Math.PI * at * n) / SAMPLE_HZ;
        re += (samples[from + n] as number) * Math.cos(turn);
        im -= (samples[from + n] as number) * Math.sin(turn);
      }
      sum += (2 * (re * re + im * im)) / (length * SAMPLE_HZ);
      count++;
    }
  }
  return sum / count;
}
