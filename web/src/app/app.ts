import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  Injector,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { Router, RouterLink, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { Mark } from './drawing/mark';
import { Field } from './field/field';
import { FieldNote } from './field/field-note';
import { Header } from './header';
import { Keys } from './keys/keys';
import { Preferences } from './preferences/preferences';
import { sessionFeature, SessionEvents } from './session/session.state';

/** The frame around every page: who, where, and how far along the line. */
@Component({
  selector: 'ns-root',
  imports: [RouterOutlet, RouterLink, MatButtonModule, MatMenuModule, Mark, FieldNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (crew(); as crew) {
      <a class="skip" href="#main" (click)="toMain($event)">To the page</a>
      <header class="no-print">
        <a class="brand" routerLink="/jobs"><ns-mark /> Near Spoke</a>
        <nav class="crumbs" aria-label="Where you are">
          @for (crumb of header.crumbs(); track $index) {
            @if (crumb.link) {
              <a [routerLink]="crumb.link">{{ crumb.name }}</a> <span aria-hidden="true">/</span>
            } @else {
              <strong>{{ crumb.name }}</strong>
            }
          }
        </nav>
        @if (header.stations().length > 0) {
          <nav class="line" aria-label="Stages">
            @for (station of header.stations(); track station.name) {
              <a
                [routerLink]="station.link"
                [queryParams]="station.query ?? {}"
                [class.reached]="station.reached"
                [class.here]="station.here"
                [attr.aria-current]="station.here ? 'step' : null"
              >
                <span class="dot" aria-hidden="true"></span>{{ station.name }}
              </a>
            }
          </nav>
        }
        <div class="right">
          <a matButton routerLink="/find">Find</a>
          <a matButton routerLink="/bench">Bench</a>
          <a matButton routerLink="/kit">Kit</a>
          <a matButton routerLink="/crew">Crew</a>
          <button matButton [matMenuTriggerFor]="menu">
            {{ crew.name }}
            @if (others().length > 0) {
              <small class="of">{{ here()?.name }}</small>
            }
          </button>
          <mat-menu #menu="matMenu">
            <button mat-menu-item (click)="preferences.nextTheme()">Look: {{ preferences.theme() }}</button>
            <button mat-menu-item (click)="preferences.toggleSound()">
              Sound: {{ preferences.sound() ? 'on' : 'off' }}
            </button>
            <button mat-menu-item (click)="keys.showList()">Keys <kbd>?</kbd></button>
            <a mat-menu-item routerLink="/waiting"
              >What waits{{ field.waiting().length > 0 ? ': ' + field.waiting().length : '' }}</a
            >
            @for (other of others(); track other.id) {
              <button mat-menu-item (click)="workIn(other.id)">Go on in {{ other.name }}</button>
            }
            <button mat-menu-item (click)="signOut()">Sign out</button>
          </mat-menu>
        </div>
      </header>
    }
    @defer (on immediate) {
      <ns-field-note class="no-print" />
    }
    <div id="main" tabindex="-1"><router-outlet /></div>
  `,
  styleUrl: './app.scss',
})
export class App {
  private readonly store = inject(Store);
  private readonly injector = inject(Injector);
  protected readonly field = inject(Field);
  protected readonly header = inject(Header);
  protected readonly keys = inject(Keys);
  protected readonly preferences = inject(Preferences);
  protected readonly crew = this.store.selectSignal(sessionFeature.selectCrew);
  private readonly inCrew = this.store.selectSignal(sessionFeature.selectInCrew);
  private readonly crews = this.store.selectSignal(sessionFeature.selectCrews);
  protected readonly here = computed(() => this.crews().find(({ id }) => id === this.inCrew()));
  protected readonly others = computed(() => this.crews().filter(({ id }) => id !== this.inCrew()));

  constructor() {
    const [router, until] = [inject(Router), inject(DestroyRef)];
    this.keys.use(
      [
        {
          key: '/',
          words: 'find anything in all jobs',
          run: () => void router.navigate(['/find']),
          when: () => this.crew() !== null,
        },
        {
          key: 'm',
          words: 'make one end, without a job',
          run: () => void router.navigate(['/bench/make']),
          when: () => this.crew() !== null && router.url === '/jobs',
        },
      ],
      until,
    );
    let hears = false;
    until.onDestroy(() => (hears = true));
    effect(() => {
      if (!this.crew()) return;
      // Labels are read anywhere, from now on.
      void import('./labels/label-reader').then(({ LabelReader }) => {
        if (!hears) this.injector.get(LabelReader);
        hears = true;
      });
    });
  }

  /** What is not sent yet is told first. */
  protected async signOut(): Promise<void> {
    const waits = this.field.waiting().length;
    if (waits > 0) {
      const { leavesAnyway } = await import('./field/leave-anyway');
      if (!(await leavesAnyway(this.injector, waits))) return;
    }
    this.store.dispatch(SessionEvents.signOutAsked());
  }

  /** Another crew of one's own; where it cannot be gone to, the page of crews says why. */
  protected async workIn(crew: string): Promise<void> {
    const { OtherCrew } = await import('./session/other-crew');
    await this.injector
      .get(OtherCrew)
      .workIn(crew)
      .catch(() => this.injector.get(Router).navigateByUrl('/crew'));
  }

  protected toMain(event: Event): void {
    event.preventDefault();
    document.getElementById('main')?.focus();
  }
}
