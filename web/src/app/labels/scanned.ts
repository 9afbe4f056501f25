import { ChangeDetectionStrategy, Component, effect, inject, input, signal, untracked } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import { linkOfCode } from '@near-spoke/core/labels';
import { Api } from '../api/api';

/** Where a label's code leads: on to its link. */
@Component({
  selector: 'ns-scanned',
  imports: [RouterLink, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (trouble()) {
      <main role="alert">
        <p>{{ trouble() }}</p>
        <a routerLink="/jobs">To the jobs</a>
      </main>
    } @else {
      <mat-progress-bar mode="indeterminate" aria-label="Looking for the link" />
    }
  `,
  styles: `
    main {
      padding: 24px;
      display: grid;
      gap: 10px;
    }
  `,
})
export class Scanned {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly code = input.required<string>();
  protected readonly trouble = signal('');

  constructor() {
    effect(() => {
      const linkId = linkOfCode(this.code());
      untracked(() => this.open(linkId));
    });
  }

  private open(linkId: string | null): void {
    const unknown = 'This label is of no link here. It may be another installation’s: look who made it.';
    if (linkId === null) {
      this.trouble.set(unknown);
      return;
    }
    this.api.call('getLink', { params: { linkId } }).subscribe({
      next: ({ link }) =>
        void this.router.navigate(['/jobs', link.jobId, 'links', link.id], { replaceUrl: true }),
      error: () => this.trouble.set(unknown),
    });
  }
}
