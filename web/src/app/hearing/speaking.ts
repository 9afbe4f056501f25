import { inject, Injectable } from '@angular/core';
import { Preferences } from '../preferences/preferences';

/** Reads short words aloud by the browser's own voice, where it has one and the person likes it. All of them stand on the screen too. */
@Injectable({ providedIn: 'root' })
export class Speaking {
  private readonly preferences = inject(Preferences);
  readonly able = typeof speechSynthesis !== 'undefined';

  say(words: string): void {
    if (!this.able || !this.preferences.readAloud()) return;
    speechSynthesis.cancel();
    const spoken = new SpeechSynthesisUtterance(words);
    spoken.lang = 'en';
    spoken.rate = 1.1;
    speechSynthesis.speak(spoken);
  }

  hush(): void {
    if (this.able) speechSynthesis.cancel();
  }
}
