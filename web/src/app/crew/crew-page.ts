import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  type FormGroupDirective,
  NonNullableFormBuilder,
  ReactiveFormsModule,
  Validators,
} from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { CrewMember, Problem, Role } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { sessionFeature } from '../session/session.state';
import { AtHand } from './at-hand';
import { Crews } from './crews';
import { HandsAtWork } from './hands-at-work';
import { Yourself } from './yourself';

/** The crew: who is in it, and, for the lead, who may do what. */
@Component({
  selector: 'ns-crew-page',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    AtHand,
    Crews,
    HandsAtWork,
    ProblemNote,
    Yourself,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <h1>{{ called() }}</h1>
      @if (problem(); as problem) {
        <ns-problem-note [problem]="problem" />
      }
      <ul>
        @for (person of people(); track person.id) {
          <li class="sheet">
            <strong>{{ person.name }}</strong>
            @if (isLead()) {
              <mat-form-field>
                <mat-label>Role of {{ person.name }}</mat-label>
                <mat-select [value]="person.role" (valueChange)="change(person, { role: $event })">
                  @for (role of roles; track role) {
                    <mat-option [value]="role">{{ role }}</mat-option>
                  }
                </mat-select>
              </mat-form-field>
              <button matButton="outlined" (click)="change(person, { active: !person.active })">
                {{ person.active ? 'Close the account' : 'Open it again' }}
              </button>
            } @else {
              <span>{{ person.role }}{{ person.active ? '' : ', closed' }}</span>
            }
          </li>
        }
      </ul>
      @if (isLead()) {
        <form #asked="ngForm" class="sheet" [formGroup]="form" (ngSubmit)="add(asked)">
          <h2>Add a person</h2>
          <mat-form-field
            ><mat-label>Name</mat-label
            ><input matInput formControlName="name" maxlength="80" autocomplete="off"
          /></mat-form-field>
          <mat-form-field>
            <mat-label>Role</mat-label>
            <mat-select formControlName="role">
              @for (role of roles; track role) {
                <mat-option [value]="role">{{ role }}</mat-option>
              }
            </mat-select>
          </mat-form-field>
          <mat-form-field
            ><mat-label>First passphrase, at least 12 characters</mat-label
            ><input matInput formControlName="passphrase" maxlength="200" autocomplete="off"
          /></mat-form-field>
          <button matButton="filled" class="main-action" [disabled]="form.invalid">Add</button>
        </form>
      }
      <ns-at-hand />
      <ns-hands-at-work />
      <ns-crews />
      <ns-yourself />
    </main>
  `,
  styles: `
    main {
      max-width: 760px;
      margin: 0 auto;
      padding: 24px;
      display: grid;
      gap: 16px;
    }
    ul {
      display: grid;
      gap: 8px;
    }
    li {
      display: grid;
      grid-template-columns: 1fr 220px auto;
      gap: 14px;
      align-items: center;
      padding: 10px 16px;
    }
    form {
      padding: 18px;
      display: grid;
      gap: 10px;
    }
    @media (max-width: 620px) {
      li {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class CrewPage {
  private readonly api = inject(Api);
  protected readonly isLead = inject(Store).selectSignal(sessionFeature.selectIsLead);
  private readonly crews = inject(Store).selectSignal(sessionFeature.selectCrews);
  private readonly here = inject(Store).selectSignal(sessionFeature.selectInCrew);
  protected readonly called = computed(
    () => this.crews().find(({ id }) => id === this.here())?.name ?? 'Crew',
  );
  protected readonly roles: readonly Role[] = ['lead', 'technician', 'viewer'];
  protected readonly people = signal<readonly CrewMember[]>([]);
  protected readonly problem = signal<Problem | null>(null);
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', Validators.required],
    role: ['technician' as Role],
    passphrase: ['', [Validators.required, Validators.minLength(12)]],
  });
  private newId = crypto.randomUUID();

  constructor() {
    inject(Header).show([{ name: 'Crew' }]);
    void this.attempt(async () => undefined);
  }

  protected change(person: CrewMember, change: { role?: Role; active?: boolean }): void {
    void this.attempt(() =>
      firstValueFrom(
        this.api.call('changeCrew', {
          params: { crewId: person.id },
          body: { version: person.version, ...change },
        }),
      ),
    );
  }

  protected add(asked: FormGroupDirective): void {
    void this.attempt(async () => {
      await firstValueFrom(
        this.api.call('addCrew', { body: { id: this.newId, ...this.form.getRawValue() } }),
      );
      this.newId = crypto.randomUUID();
      asked.resetForm();
    });
  }

  /** Does something, says what went wrong, and shows the crew as it is afterwards. */
  private async attempt(work: () => Promise<unknown>): Promise<void> {
    this.problem.set(null);
    try {
      await work();
    } catch (error) {
      this.problem.set(problemOf(error));
    }
    try {
      this.people.set(await firstValueFrom(this.api.call('listCrew', {})));
    } catch (error) {
      this.problem.set(problemOf(error));
    }
  }
}
