import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Mark } from '../drawing/mark';
import { ProblemNote } from '../drawing/problem-note';
import { sessionFeature, SessionEvents } from './session.state';

/** Sign in; in the demo one click as one of its people; at the very first start the first lead. */
@Component({
  selector: 'ns-sign-in',
  imports: [
    ReactiveFormsModule,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    Mark,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <header>
        <ns-mark [size]="56" />
        <div>
          <h1>Near Spoke</h1>
          <p class="quiet">From cable end to proved link.</p>
        </div>
      </header>
      @if (session()?.state === 'setup') {
        <section class="sheet" aria-labelledby="setup-title">
          <h2 id="setup-title">Make the first lead</h2>
          <p class="quiet">Nobody is in this crew yet. The lead adds the others later.</p>
          <form [formGroup]="form" (ngSubmit)="makeLead()">
            <mat-form-field>
              <mat-label>Name</mat-label>
              <input matInput formControlName="name" autocomplete="name" maxlength="80" />
            </mat-form-field>
            <mat-form-field>
              <mat-label>Passphrase, at least 12 characters</mat-label>
              <input
                matInput
                type="password"
                formControlName="passphrase"
                autocomplete="new-password"
                maxlength="200"
              />
            </mat-form-field>
            <mat-form-field>
              <mat-label>What the crew is called (can be said later)</mat-label>
              <input matInput formControlName="crewName" autocomplete="organization" maxlength="80" />
            </mat-form-field>
            <button matButton="filled" class="main-action" [disabled]="busy()">Begin</button>
          </form>
        </section>
      } @else {
        @if (people().length > 0) {
          <section class="sheet" aria-labelledby="demo-title">
            <h2 id="demo-title">Enter the demo</h2>
            <p class="quiet">A ferry terminal refit, half done, with six links that failed.</p>
            <ul>
              @for (person of people(); track person.id) {
                <li>
                  <button
                    matButton="outlined"
                    class="main-action"
                    [disabled]="busy()"
                    (click)="enter(person.id)"
                  >
                    {{ person.name }}, {{ person.role }}
                  </button>
                </li>
              }
            </ul>
          </section>
        }
        <section class="sheet" aria-labelledby="sign-in-title">
          <h2 id="sign-in-title">Sign in</h2>
          <form [formGroup]="form" (ngSubmit)="signIn()">
            <mat-form-field>
              <mat-label>Name</mat-label>
              <input matInput formControlName="name" autocomplete="username" maxlength="80" />
            </mat-form-field>
            <mat-form-field>
              <mat-label>Passphrase</mat-label>
              <input
                matInput
                type="password"
                formControlName="passphrase"
                autocomplete="current-password"
                maxlength="200"
              />
            </mat-form-field>
            <button matButton="filled" class="main-action" [disabled]="busy()">Sign in</button>
          </form>
        </section>
      }
      @if (problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      @if (session()?.state !== 'setup') {
        <p class="quiet">
          No account, and called to the other end of a cable?
          <a routerLink="/help">Help with a code</a>
        </p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 460px;
      margin: 0 auto;
      padding: 7vh 20px 40px;
      display: grid;
      gap: 20px;
    }
    header {
      display: flex;
      gap: 16px;
      align-items: center;
    }
    section {
      padding: 22px;
      display: grid;
      gap: 14px;
    }
    ul,
    form {
      display: grid;
      gap: 10px;
    }
    button {
      width: 100%;
    }
  `,
})
export class SignIn {
  private readonly store = inject(Store);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', Validators.required],
    passphrase: ['', Validators.required],
    crewName: [''],
  });
  protected readonly session = this.store.selectSignal(sessionFeature.selectSession);
  protected readonly busy = this.store.selectSignal(sessionFeature.selectBusy);
  protected readonly problem = this.store.selectSignal(sessionFeature.selectProblem);
  protected readonly people = computed(() => {
    const session = this.session();
    return session?.state === 'signed-out' ? session.demoPeople : [];
  });

  protected signIn(): void {
    const { name, passphrase } = this.form.getRawValue();
    this.store.dispatch(SessionEvents.signInAsked({ name, passphrase }));
  }

  protected enter(crewId: string): void {
    this.store.dispatch(SessionEvents.demoPersonChosen({ crewId }));
  }

  protected makeLead(): void {
    this.store.dispatch(
      SessionEvents.firstLeadGiven({ id: crypto.randomUUID(), ...this.form.getRawValue() }),
    );
  }
}
