import { Answering, Ear, learnTone, type Said, type Tone } from '@near-spoke/core/hearing';
import { beep, chance, noise, SAMPLE_HZ, type Beeper, type Noise } from './sounds.js';

const CHUNK = 480;

/** A room's noise is made once: levels only scale it. */
const rooms = new Map<string, Float32Array>();
function roomOf(kind: Noise, seconds: number, seed: number): Float32Array {
  const key = `${kind} ${seconds} ${seed}`;
  const made = rooms.get(key) ?? noise(kind, seconds, seed);
  rooms.set(key, made);
  return made;
}

/** Three touches in a room that is as quiet as it gets, and what was learned of them. */
export function taughtBy(
  beeper: Beeper,
  amplitude: number,
  room: Noise = 'quiet',
  roomRms = 0.001,
  seed = 1,
): Tone | null {
  const sound = noise(room, 6, seed).map((x) => x * roomRms);
  for (const from of [1.2, 2.6, 4.1]) beep(sound, beeper, from, from + 0.6, amplitude);
  const taught = learnTone(sound, SAMPLE_HZ);
  return taught.say === 'taught' ? taught.tone : null;
}

export interface Heard {
  said: Said[];
  on: { atS: number; saidS: number }[];
}

/** What an ear and a hand's grammar make of a stretch of sound, in pieces as a microphone brings them. */
export function hear(tone: Tone, sound: Float32Array): Heard {
  const ear = new Ear(tone, SAMPLE_HZ);
  const answering = new Answering();
  const heard: Heard = { said: [], on: [] };
  for (let from = 0; from < sound.length; from += CHUNK) {
    const { moments, edges } = ear.hear(sound.subarray(from, from + CHUNK));
    const last = moments.at(-1);
    if (last) heard.said.push(...answering.take(edges, last.atS));
    heard.on.push(...edges.filter(({ kind }) => kind === 'on'));
  }
  return heard;
}

export interface Roc {
  /** Of touches of half a second and more: noticed within 150 ms. */
  heard: number;
  touches: number;
  /** Median of the time from a touch's begin until it was known, seconds. */
  delayS: number;
  /** Comings of the tone while nothing touched, by the hour. */
  falsePerHour: number;
  /** Answers of any kind while nothing touched, by the hour. */
  answersPerHour: number;
  hours: number;
}

/**
 * Touches of a beeper in a noise, so many decibels of the tone's power over the noise's whole power; then the noise alone.
 */
export function rocOf(
  beeper: Beeper,
  room: Noise,
  overDb: number,
  { touches = 40, aloneS = 120, seed = 1 } = {},
): Roc | null {
  const amplitude = 0.05;
  const tone = taughtBy(beeper, amplitude);
  if (!tone) return null;
  const rms = Math.sqrt((amplitude * amplitude) / 2 / 10 ** (overDb / 10));
  const random = chance(seed + 77);
  const period = 2;
  const sound = roomOf(room, touches * period + 1, seed).map((x) => x * rms);
  const begins = Array.from({ length: touches }, (_, n) => 0.6 + n * period + 0.3 * random());
  for (const from of begins) beep(sound, beeper, from, from + 0.6 + 0.2 * random(), amplitude);
  const { on } = hear(tone, sound);
  const delays = begins.flatMap((from) => {
    const known = on.find(({ saidS }) => saidS >= from && saidS < from + 1);
    return known && known.saidS - from <= 0.15 + 1e-9 ? [known.saidS - from] : [];
  });
  const alone = hear(
    tone,
    roomOf(room, aloneS, seed + 5000).map((x) => x * rms),
  );
  const hours = aloneS / 3600;
  return {
    heard: delays.length,
    touches,
    delayS: delays.sort((a, b) => a - b)[Math.floor(delays.length / 2)] ?? NaN,
    falsePerHour: alone.on.length / hours,
    answersPerHour: alone.said.filter(({ say }) => say !== 'unsure').length / hours,
    hours,
  };
}
