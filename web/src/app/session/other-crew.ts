import { inject, Injectable, InjectionToken, Injector } from '@angular/core';
import type { SessionState } from '@near-spoke/contracts';
import { firstValueFrom, type Observable } from 'rxjs';
import { Api } from '../api/api';
import { Field } from '../field/field';

/** Loads the page anew, so that nothing of the crew before is left in it. */
export const LOAD_ANEW = new InjectionToken<(path: string) => void>('load anew', {
  providedIn: 'root',
  factory: () => (path: string) => location.assign(path),
});

/** Goes on in another crew of one's own. */
@Injectable({ providedIn: 'root' })
export class OtherCrew {
  private readonly api = inject(Api);
  private readonly field = inject(Field);
  private readonly injector = inject(Injector);
  private readonly loadAnew = inject(LOAD_ANEW);

  /** @throws what the server says */
  workIn(crew: string): Promise<void> {
    return this.goOn(() => this.api.call('workInCrew', { body: { crew } }));
  }

  /** Comes into a crew by a code, and goes on there. @throws what the server says */
  join(code: string): Promise<void> {
    return this.goOn(() => this.api.call('joinCrew', { body: { code } }));
  }

  /** What is not sent yet is told first. */
  private async goOn(ask: () => Observable<SessionState>): Promise<void> {
    await this.field.ready();
    const waits = this.field.waiting().length;
    if (waits > 0) {
      const { GOES_ON_ELSEWHERE, leavesAnyway } = await import('../field/leave-anyway');
      if (!(await leavesAnyway(this.injector, waits, GOES_ON_ELSEWHERE))) return;
    }
    await firstValueFrom(ask());
    this.loadAnew('/jobs');
  }
}
