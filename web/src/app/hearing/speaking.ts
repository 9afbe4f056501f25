import { inject, Injectable, signal } from '@angular/core';
import { Preferences } from '../preferences/preferences';

/** Reads short words aloud by one of the browser's own voices, where it has one and the person likes it. All of them stand on the screen too. */
@Injectable({ providedIn: 'root' })
export class Speaking {
  private readonly preferences = inject(Preferences);
  readonly able = typeof speechSynthesis !== 'undefined';
  /** Voices of the browser that speak English; it may find them only after a while. */
  readonly voices = signal<readonly SpeechSynthesisVoice[]>([]);

  constructor() {
    if (!this.able) return;
    const look = (): void =>
      this.voices.set(speechSynthesis.getVoices().filter(({ lang }) => lang.toLowerCase().startsWith('en')));
    look();
    speechSynthesis.addEventListener('voiceschanged', look);
  }

  say(words: string): void {
    if (!this.able || !this.preferences.readAloud()) return;
    speechSynthesis.cancel();
    const spoken = new SpeechSynthesisUtterance(words);
    spoken.lang = 'en';
    spoken.rate = this.preferences.speechRate();
    const voice = this.voices().find(({ name }) => name === this.preferences.voice());
    if (voice) {
      spoken.voice = voice;
      spoken.lang = voice.lang;
    }
    speechSynthesis.speak(spoken);
  }

  hush(): void {
    if (this.able) speechSynthesis.cancel();
  }
}
