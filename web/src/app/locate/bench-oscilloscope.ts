import { inject, Injectable, signal } from '@angular/core';
import type { BenchScope, TakenTrace } from '@near-spoke/contracts';
import { lineOf, planLaunch, type CableType, type LinkEnd } from '@near-spoke/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';

/** The smallest reflection that a trace should show at the far end, and an eight-bit oscilloscope's noise. */
const WANTED = { reflection: 0.1, noiseShare: 0.005 };
const MOST_SAMPLES = 20_000;

/** What is clipped on. */
export interface ClippedLine {
  lineId: string;
  end: LinkEnd;
  pair: string | null;
  cable: CableType;
  /** About how long it is. */
  lengthM: number;
}

/** The oscilloscope with a pulser that stands on the bench, where one is set up. */
@Injectable({ providedIn: 'root' })
export class BenchOscilloscope {
  private readonly api = inject(Api);
  readonly scope = signal<BenchScope | null>(null);

  /** Asks whether there is one. */
  async look(): Promise<void> {
    try {
      this.scope.set(await firstValueFrom(this.api.call('benchScope', {})));
    } catch {
      this.scope.set(null);
    }
  }

  /** One trace, launched as the plan for this cable and length says, as a file of ours. */
  async take({ cable, lengthM, ...line }: ClippedLine): Promise<{ file: File; taken: TakenTrace }> {
    const { widthS, riseS, intervalS, recordS } = planLaunch({ line: lineOf(cable), lengthM, ...WANTED });
    const samples = Math.min(MOST_SAMPLES, Math.ceil(recordS / intervalS));
    const body = { ...line, widthS, riseS, intervalS, samples };
    const taken = await firstValueFrom(this.api.call('takeTrace', { body }));
    const trace = { format: 'near-spoke/trace', formatVersion: 1, ...taken.trace };
    const name = `taken ${new Date().toISOString().slice(0, 16).replace('T', ' ')}, ${Math.round(widthS * 1e9)} ns pulse`;
    return { file: new File([JSON.stringify(trace)], name, { type: 'application/json' }), taken };
  }
}
