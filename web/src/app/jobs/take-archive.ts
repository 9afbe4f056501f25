import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { ArchiveTaken } from '@near-spoke/contracts';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Asking } from '../ui/asking';
import { FileDrop } from '../ui/file-drop';

/** Brings a whole job in from its archive, as it was somewhere else. */
@Component({
  selector: 'ns-take-archive',
  imports: [RouterLink, MatProgressBarModule, FileDrop, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ns-file-drop label="Bring a job in from its archive" accept=".zip" (dropped)="take($event)" />
    @if (asking.busy()) {
      <mat-progress-bar mode="indeterminate" aria-label="Reading the archive" />
    }
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @if (taken(); as taken) {
      <div role="status">
        <p>
          <a [routerLink]="['/jobs', taken.jobId]">{{ taken.title }}</a> is here, with
          {{ taken.links === 1 ? '1 link' : taken.links + ' links' }} and all that was recorded of them.
        </p>
        @if (taken.people.length > 0) {
          <p class="small quiet">
            Not known here and kept by name, without a way to sign in: {{ taken.people.join(', ') }}.
          </p>
        }
        @if (taken.otherSheets.length > 0) {
          <p class="small quiet">
            Sheets that are others here; its links follow those of here: {{ taken.otherSheets.join(', ') }}.
          </p>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    [role='status'] {
      border-left: 6px solid var(--accent);
      padding: 4px 12px;
    }
  `,
})
export class TakeArchive {
  private readonly api = inject(Api);
  /** A job is here that was not before. */
  readonly brought = output();
  protected readonly asking = new Asking();
  protected readonly taken = signal<ArchiveTaken | null>(null);

  protected take(file: File): void {
    this.taken.set(null);
    this.asking.ask(this.api.upload('takeArchive', file), (taken) => {
      this.taken.set(taken);
      this.brought.emit();
    });
  }
}
