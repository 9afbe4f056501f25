import { inject, Injectable } from '@angular/core';
import { Preferences } from './preferences';

/** A rising tone for right, a falling one for wrong, a level one for undecided, for those who cannot look. */
@Injectable({ providedIn: 'root' })
export class Tones {
  private readonly preferences = inject(Preferences);
  private context: AudioContext | null = null;

  right(): void {
    this.play(520, 780);
  }

  wrong(): void {
    this.play(420, 260);
  }

  verdict(result: 'pass' | 'fail' | 'cannot-tell' | undefined): void {
    if (result === 'pass') this.right();
    else if (result === 'fail') this.wrong();
    else this.play(440, 440);
  }

  private play(fromHz: number, toHz: number): void {
    if (!this.preferences.sound() || typeof AudioContext === 'undefined') return;
    this.context ??= new AudioContext();
    const { context } = this;
    const tone = context.createOscillator();
    const level = context.createGain();
    const end = context.currentTime + 0.22;
    tone.frequency.setValueAtTime(fromHz, context.currentTime);
    tone.frequency.exponentialRampToValueAtTime(toHz, end);
    level.gain.setValueAtTime(0.12, context.currentTime);
    level.gain.exponentialRampToValueAtTime(0.001, end);
    tone.connect(level).connect(context.destination);
    tone.start();
    tone.stop(end);
  }
}
