import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import type { LooseEnd } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Api, loosePhotoAddress } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';

/** The loose-work book: what was made without a job, and what of it is given to one. */
@Component({
  selector: 'ns-loose-book',
  imports: [MatButtonModule, MatCheckboxModule, MatFormFieldModule, MatSelectModule, ProblemNote, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Loose-work book</h2>
    @if (asking.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    <ul>
      @for (end of book(); track end.id) {
        <li>
          @if (mayWork() && !end.givenTo) {
            <mat-checkbox [checked]="chosen().has(end.id)" (change)="mark(end.id)">
              <strong>{{ end.name || end.connector }}</strong>
            </mat-checkbox>
          } @else {
            <strong class="plain">{{ end.name || end.connector }}</strong>
          }
          <span class="small">
            {{ end.name ? end.connector + ' on ' : 'on ' }}{{ end.cable }}:
            <span [class.wrong]="end.outcome === 'spoiled' || end.proof === 'failed'">
              {{ end.outcome }}{{ end.connectorsSpoiled ? ', ' + end.connectorsSpoiled + ' spoiled' : ''
              }}{{ end.proof ? ', ' + end.proof : ', not metered' }}.
            </span>
            @if (end.notAsCard; as slipped) {
              <span [class.wrong]="slipped.length > 0">
                Colours {{ slipped.length > 0 ? 'not as the card on ' + slipped.join(', ') : 'as the card' }}.
              </span>
            }
            @if (tried(end); as words) {
              <span [class.wrong]="fails(end)">{{ words }}</span>
            }
            @for (photo of end.photos; track photo; let n = $index) {
              <a [href]="photoOf(end, photo)" target="_blank" rel="noopener">
                <img [src]="photoOf(end, photo)" loading="lazy" [alt]="'Photo ' + (n + 1)" />
              </a>
            }
          </span>
          <span class="small quiet">
            {{ end.at.slice(0, 10) }} {{ end.by }}.
            @if (end.givenTo; as to) {
              Given to <a [routerLink]="['/jobs', to.jobId]">{{ to.title }}</a>.
            }
          </span>
        </li>
      }
    </ul>
    @if (chosen().size > 0) {
      <div class="row">
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>Job</mat-label>
          <mat-select [value]="jobId()" (valueChange)="jobId.set($event)">
            @for (job of jobs(); track job.id) {
              <mat-option [value]="job.id">{{ job.site }}, {{ job.title }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <button
          matButton="filled"
          class="main-action"
          [disabled]="asking.busy() || jobId() === ''"
          (click)="give()"
        >
          Give {{ chosen().size }} to this job
        </button>
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
      padding: 16px 20px;
    }
    li {
      display: grid;
      grid-template-columns: minmax(200px, 1fr) minmax(220px, 2fr) minmax(180px, 1fr);
      gap: 4px 16px;
      align-items: center;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule);
      min-height: 48px;
    }
    img {
      height: 40px;
      vertical-align: middle;
      border-radius: var(--round);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 12px;
      align-items: center;
    }
    @media (max-width: 900px) {
      li {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class LooseBook {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly book = input.required<readonly LooseEnd[]>();
  readonly given = output<LooseEnd[]>();
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly entities = this.store.selectSignal(jobsFeature.selectJobEntities);
  protected readonly jobs = computed(() => Object.values(this.entities()).flatMap((job) => job ?? []));
  protected readonly asking = new Asking();
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly jobId = signal('');

  constructor() {
    this.store.dispatch(JobEvents.jobsOpened());
  }

  protected photoOf({ id }: LooseEnd, photo: string): string {
    return loosePhotoAddress(id, photo);
  }

  protected fails({ functionTest }: LooseEnd): boolean {
    return functionTest.some(({ does }) => does === false);
  }

  /** What trying it came to. */
  protected tried({ functionTest }: LooseEnd): string {
    const wrong = functionTest.filter(({ does }) => does === false).map(({ what }) => what);
    if (wrong.length > 0) return `Does not do: ${wrong.join('; ')}.`;
    const open = functionTest.filter(({ does }) => does === null).length;
    if (functionTest.length === 0) return '';
    return open > 0
      ? `${functionTest.length - open} of ${functionTest.length} functions tried.`
      : 'Does what it has to.';
  }

  protected mark(id: string): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected give(): void {
    const body = { jobId: this.jobId(), ends: [...this.chosen()] };
    this.asking.ask(this.api.call('giveLooseEnds', { body }), (book) => {
      this.chosen.set(new Set());
      this.given.emit(book);
    });
  }
}
