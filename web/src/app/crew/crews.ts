import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
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
import { roles, type Invitation, type OwnCrew, type Role } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { from } from 'rxjs';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { OtherCrew } from '../session/other-crew';
import { sessionFeature, SessionEvents } from '../session/session.state';
import { Asking } from '../ui/asking';

/** The crews that one works in; for leads, how theirs is called, and codes by which people of others come into it. */
@Component({
  selector: 'ns-crews',
  imports: [
    DatePipe,
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    ProblemNote,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './crews.html',
  styleUrl: './crews.scss',
})
export class Crews {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly other = inject(OtherCrew);
  private readonly asking = new Asking();
  protected readonly busy = this.asking.busy;
  protected readonly problem = this.asking.problem;
  protected readonly roles = roles;
  protected readonly isLead = this.store.selectSignal(sessionFeature.selectIsLead);
  protected readonly here = this.store.selectSignal(sessionFeature.selectInCrew);
  private readonly all = this.store.selectSignal(sessionFeature.selectCrews);
  /** In the order of their names: it stays as it is whichever is worked in. */
  protected readonly crews = computed(() => [...this.all()].sort((a, b) => a.name.localeCompare(b.name)));
  private readonly own = computed(() => this.crews().find(({ id }) => id === this.here()));
  protected readonly invitations = signal<readonly Invitation[]>([]);
  protected readonly open = computed(() => this.invitations().filter(({ usedBy }) => usedBy === null));
  protected readonly used = computed(() => this.invitations().filter(({ usedBy }) => usedBy !== null));
  /** The code that was just made: it is told once. */
  protected readonly made = signal<{ code: string; invitation: Invitation } | null>(null);

  private readonly forms = inject(NonNullableFormBuilder);
  protected readonly joining = this.forms.group({ code: ['', Validators.required] });
  protected readonly naming = this.forms.group({ name: ['', Validators.required] });
  protected readonly founding = this.forms.group({ name: ['', Validators.required] });
  protected readonly inviting = this.forms.group({ role: ['technician' as Role] });
  private newCrew = crypto.randomUUID();
  private newInvitation = crypto.randomUUID();

  constructor() {
    effect(() => {
      const name = this.own()?.name ?? '';
      untracked(() => this.naming.setValue({ name }));
    });
    effect(() => {
      if (!this.isLead()) return;
      untracked(() =>
        this.api
          .call('listInvitations', {})
          .subscribe({ next: (all) => this.invitations.set(all), error: () => undefined }),
      );
    });
  }

  protected workIn({ id }: OwnCrew): void {
    this.asking.ask(from(this.other.workIn(id)), () => undefined);
  }

  protected join(): void {
    this.asking.ask(from(this.other.join(this.joining.getRawValue().code)), () => undefined);
  }

  protected rename(): void {
    const { name } = this.naming.getRawValue();
    const body = { name, version: this.own()?.version ?? 0 };
    this.asking.ask(this.api.call('renameCrew', { body }), (session) =>
      this.store.dispatch(SessionEvents.sessionKnown({ session })),
    );
  }

  protected found(asked: FormGroupDirective): void {
    const body = { id: this.newCrew, ...this.founding.getRawValue() };
    this.asking.ask(this.api.call('foundCrew', { body }), (session) => {
      this.newCrew = crypto.randomUUID();
      asked.resetForm();
      this.store.dispatch(SessionEvents.sessionKnown({ session }));
    });
  }

  protected invite(): void {
    const body = { id: this.newInvitation, ...this.inviting.getRawValue() };
    this.asking.ask(this.api.call('addInvitation', { body }), (made) => {
      this.newInvitation = crypto.randomUUID();
      this.made.set(made);
      this.invitations.update((all) => [made.invitation, ...all]);
    });
  }

  protected takeBack({ id }: Invitation): void {
    this.asking.ask(this.api.call('endInvitation', { params: { invitationId: id } }), (all) => {
      if (this.made()?.invitation.id === id) this.made.set(null);
      this.invitations.set(all);
    });
  }
}
