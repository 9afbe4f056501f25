import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import {
  Answering,
  Ear,
  learnTone,
  pitchWords,
  type Moment,
  type Said,
  type Tone,
} from '@near-spoke/core/hearing';
import * as z from 'zod';
import { MICROPHONE, NoMicrophone, type OpenMicrophone } from './microphone';

/** Seconds of sound that teaching looks back on, and how often it does. */
const TAUGHT_FROM_S = 9;
const LOOK_EVERY_S = 0.4;
/** Moments drawn: three seconds. */
const DRAWN = 150;
/** A microphone that gives nothing but noughts for so long is muted. */
const MUTED_S = 2;
/** Where this device keeps the tone it was taught. */
const KEPT = 'near-spoke-beeper';

const keptTone = z.intersection(
  z.object({ power: z.number().positive(), overNoise: z.number().positive() }),
  z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('steady'), pitchesHz: z.array(z.number().positive()).min(1) }),
    z.object({ kind: z.literal('moving'), shares: z.array(z.number().min(0)).min(1) }),
  ]),
);

const TEACHING = {
  'too short': 'Hold each touch for half a second.',
  'not alike': 'These did not sound alike. Touch the leads together again, three times.',
  'too faint': 'It hardly stands out of what is always there. Bring the device nearer to the meter.',
} as const;

type State = 'off' | 'starting' | 'teaching' | 'listening';

/** Listens for a meter's own tone and gives what the hands say with it. Belongs to whoever provides it, and ends with that. */
@Injectable()
export class Listening {
  private readonly open = inject(MICROPHONE);
  private readonly now = signal<State>('off');
  private readonly troubled = signal('');
  private readonly heardTouches = signal(0);
  private readonly told = signal('');
  private readonly known = signal<Tone | null>(null);
  private readonly moments = signal<readonly Moment[]>([]);
  private microphone: OpenMicrophone | null = null;
  private ear: Ear | null = null;
  private answering = new Answering();
  private buffer = new Float32Array(0);
  private sinceLook = 0;
  private noughts = 0;
  private said: (said: Said['say']) => void = () => undefined;

  readonly state = this.now.asReadonly();
  readonly trouble = this.troubled.asReadonly();
  readonly touches = this.heardTouches.asReadonly();
  /** The last thing that was heard, in words. */
  readonly words = this.told.asReadonly();
  readonly trail = this.moments.asReadonly();
  readonly pitch = computed(() => {
    const tone = this.known();
    return tone ? pitchWords(tone) : '';
  });

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** @param said is told what the hands say, once a tone is taught */
  async start(said: (said: Said['say']) => void): Promise<void> {
    if (this.now() !== 'off') return;
    this.said = said;
    this.now.set('starting');
    this.troubled.set('');
    try {
      const microphone = await this.open((samples, lost) => this.take(samples, lost));
      // Stopped while it was being opened.
      if ((this.now() as State) === 'off') {
        microphone.close();
        return;
      }
      this.microphone = microphone;
    } catch (error) {
      this.now.set('off');
      this.troubled.set(error instanceof NoMicrophone ? error.message : String(error));
      return;
    }
    const kept = storedTone();
    if (kept) this.listen(kept);
    else this.teach();
  }

  stop(): void {
    this.microphone?.close();
    this.microphone = null;
    this.ear = null;
    this.now.set('off');
    this.told.set('');
    this.moments.set([]);
  }

  /** Forgets the tone and learns another. */
  teach(): void {
    this.known.set(null);
    this.ear = null;
    this.buffer = new Float32Array(0);
    this.heardTouches.set(0);
    this.told.set('');
    this.moments.set([]);
    this.now.set('teaching');
  }

  private listen(tone: Tone): void {
    const { sampleHz } = this.microphone as OpenMicrophone;
    this.ear = new Ear(tone, sampleHz);
    this.answering = new Answering();
    this.known.set(tone);
    this.now.set('listening');
  }

  private take(samples: Float32Array, lost: number): void {
    if (!this.microphone) return;
    this.muted(samples);
    if (this.now() === 'teaching') this.learn(samples);
    else if (this.ear) this.hear(this.ear, samples, lost);
  }

  private muted(samples: Float32Array): void {
    const { sampleHz } = this.microphone as OpenMicrophone;
    this.noughts = samples.every((sample) => sample === 0) ? this.noughts + samples.length / sampleHz : 0;
    if (this.noughts > MUTED_S)
      this.troubled.set('The microphone gives no sound at all. Is it switched off?');
    else if (this.noughts === 0 && this.troubled() !== '') this.troubled.set('');
  }

  private learn(samples: Float32Array): void {
    const { sampleHz } = this.microphone as OpenMicrophone;
    const most = Math.round(TAUGHT_FROM_S * sampleHz);
    const joined = new Float32Array(Math.min(most, this.buffer.length + samples.length));
    const old = this.buffer.subarray(Math.max(0, this.buffer.length + samples.length - most));
    joined.set(old);
    joined.set(samples, old.length);
    this.buffer = joined;
    this.sinceLook += samples.length / sampleHz;
    if (this.sinceLook < LOOK_EVERY_S) return;
    this.sinceLook = 0;
    const taught = learnTone(joined, sampleHz);
    if (taught.say === 'waiting') {
      this.heardTouches.set(taught.touches);
      this.told.set(taught.trouble ? TEACHING[taught.trouble] : '');
      return;
    }
    localStorage.setItem(KEPT, JSON.stringify(taught.tone));
    this.listen(taught.tone);
    this.told.set('That is it. Now every touch answers itself.');
  }

  private hear(ear: Ear, samples: Float32Array, lost: number): void {
    const { moments, edges } = ear.hear(samples);
    const last = moments.at(-1);
    if (!last) return;
    this.moments.update((before) =>
      [...before, ...moments.filter((_moment, n) => n % 2 === 0)].slice(-DRAWN),
    );
    const said = [
      ...(lost > 0 ? this.answering.lost(last.atS) : []),
      ...this.answering.take(edges, last.atS),
    ];
    for (const { say } of said) {
      this.told.set(SAID[say]);
      this.said(say);
    }
  }
}

const SAID: Readonly<Record<Said['say'], string>> = {
  beeps: 'Heard: it beeps.',
  silent: 'Two taps: silent.',
  'take back': 'Three taps: the last answer is taken back.',
  unsure: 'One short beep: a brush or an answer? Hold it for half a second, or tap twice for silent.',
  'stays on': 'The beeper stays on. Lift a probe: nothing is answered by that.',
};

function storedTone(): Tone | null {
  try {
    return keptTone.parse(JSON.parse(localStorage.getItem(KEPT) ?? ''));
  } catch {
    return null;
  }
}
