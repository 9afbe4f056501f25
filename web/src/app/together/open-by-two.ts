import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import type { OpenByTwo as Open } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { sessionFeature } from '../session/session.state';
import type { End } from './together';

/** Looked up again after this long, and whenever somebody comes back to the page. */
const AGAIN_MS = 15_000;

const ENDS = ['near', 'far'] as const;

/** Where a person goes on with it: the end that they were at, or else the one where nobody is, or the far one. */
export function endFor({ people }: Pick<Open, 'people'>, name: string): End {
  const own = ENDS.find((end) => people[end].includes(name));
  return own ?? (people.near.length === 0 && people.far.length > 0 ? 'near' : 'far');
}

/** What is going on by two: of one link, or all of it, so that whoever opens it can come to the other end. */
@Component({
  selector: 'ns-open-by-two',
  imports: [MatButtonModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (shown().length > 0) {
      <section class="sheet" [attr.aria-label]="linkId() ? 'Going on at the other end' : 'Going on by two'">
        @for (one of shown(); track one.id) {
          <div class="one">
            <p>
              <strong>{{ words(one) }}</strong>
              <span class="small quiet">{{ state(one) }}</span>
            </p>
            @if (linkId()) {
              <button matButton="filled" class="main-action" (click)="came.emit(end(one))">
                {{ isOwn(one) ? 'Go on at' : 'Come to' }} the {{ end(one) }} end
              </button>
            } @else if (one.jobId) {
              <a matButton="outlined" [routerLink]="['/jobs', one.jobId, 'links', one.linkId, 'verify']">
                Open {{ one.label }}
              </a>
            } @else {
              <a matButton="outlined" [routerLink]="['/help', one.code]">Help with it</a>
            }
          </div>
        }
      </section>
    }
  `,
  styles: `
    /* Takes no row while nothing goes on. */
    :host(:empty) {
      display: none;
    }
    section {
      display: grid;
      gap: 10px;
      padding: 12px 18px;
      border-left: 5px solid var(--accent);
      margin-bottom: 14px;
    }
    .one {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 16px;
      align-items: center;
      justify-content: space-between;
    }
    p {
      margin: 0;
      flex: 1 1 240px;
    }
    span {
      display: block;
    }
  `,
})
export class OpenByTwo {
  private readonly api = inject(Api);
  /** One link alone, where it is given. */
  readonly linkId = input<string | null>(null);
  /** Somebody wants to come to that end of the link. */
  readonly came = output<End>();
  private readonly all = signal<readonly Open[]>([]);
  protected readonly shown = computed(() => {
    const linkId = this.linkId();
    return linkId === null ? this.all() : this.all().filter((one) => one.linkId === linkId);
  });
  private readonly crew = inject(Store).selectSignal(sessionFeature.selectCrew);

  constructor() {
    const look = (): void => {
      if (!document.hidden) this.look();
    };
    effect(() => {
      this.linkId();
      this.look();
    });
    const again = setInterval(look, AGAIN_MS);
    document.addEventListener('visibilitychange', look);
    inject(DestroyRef).onDestroy(() => {
      clearInterval(again);
      document.removeEventListener('visibilitychange', look);
    });
  }

  protected end(one: Open): End {
    return endFor(one, this.crew()?.name ?? '');
  }

  protected isOwn({ people }: Open): boolean {
    return ENDS.some((end) => people[end].includes(this.crew()?.name ?? ''));
  }

  private look(): void {
    // Without an answer what was shown stays; it says so itself once it is opened.
    this.api.call('openTogether', {}).subscribe({ next: (all) => this.all.set(all), error: () => undefined });
  }

  protected words({ of, label, startedBy, people }: Open): string {
    const who = [...new Set([...people.near, ...people.far])].join(' and ') || startedBy;
    const what = {
      link: `${label} is being proved`,
      wires: 'unmarked wires are being told apart',
      touches: `${label} is being proved`,
      round: `${label} is being tested`,
    }[of];
    return `${what.charAt(0).toUpperCase()}${what.slice(1)}: ${who}.`;
  }

  protected state({ of, done, people }: Open): string {
    const some = (one: string, more: string): string =>
      done === 0 ? 'Just begun' : `${done} ${done === 1 ? one : more}`;
    const far =
      of === 'wires'
        ? some('round read', 'rounds read')
        : of === 'round'
          ? some('link read', 'links read')
          : some('touch answered', 'touches answered');
    const missing = ENDS.filter((end) => people[end].length === 0);
    return missing.length === 1 ? `${far}; nobody is at the ${missing[0]} end.` : `${far}.`;
  }
}
