import { inject, Injectable, signal } from '@angular/core';
import type { CrewHands as SaidHands } from '@near-spoke/contracts';
import { USUAL_HANDS, type Hands } from '@near-spoke/core';
import { Api } from '../api/api';

/** What touching costs the hands of this crew; asked for once. */
@Injectable({ providedIn: 'root' })
export class CrewHands {
  private readonly known = signal<Hands | null>(null);
  /** Null until it is known. */
  readonly hands = this.known.asReadonly();

  constructor() {
    inject(Api)
      .call('readHands', {})
      .subscribe({
        next: (said) => this.take(said),
        // Proofs are led without it, too.
        error: () => this.known.set(USUAL_HANDS),
      });
  }

  take({ hands }: SaidHands): void {
    this.known.set(hands ?? USUAL_HANDS);
  }
}
