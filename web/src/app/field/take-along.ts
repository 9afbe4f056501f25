import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { Problem } from '@near-spoke/contracts';
import { firstValueFrom, from, lastValueFrom, mergeMap, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Reach } from '../api/reach';
import { ProblemNote } from '../drawing/problem-note';
import { Field } from './field';

/** So many links are asked for at once: others want the server too. */
const AT_ONCE = 3;

/** Keeps a job on this device, whole: for closets, lofts and cellars. */
@Component({
  selector: 'ns-take-along',
  imports: [DatePipe, MatButtonModule, MatProgressBarModule, ProblemNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @if (taking(); as taking) {
      <div class="row">
        <span class="small" role="status">Keeping: {{ taking.done }} of {{ taking.all }} links</span>
        <button matButton (click)="stop()">Stop</button>
      </div>
      <mat-progress-bar
        [value]="taking.all === 0 ? 100 : (100 * taking.done) / taking.all"
        aria-label="Keeping the job on this device"
      />
    } @else {
      <div class="row">
        @if (taken(); as taken) {
          <span class="small"
            >On this device since {{ taken.at | date: 'd MMM HH:mm' }}, with
            {{ taken.links === 1 ? 'its link' : 'all ' + taken.links + ' links' }}.</span
          >
          @if (away() === null) {
            <button matButton (click)="take()">Keep it anew</button>
            <button matButton (click)="leave()">Remove it from here</button>
          }
        } @else if (away() === null) {
          <span class="small quiet">No network where you go? Cards, readings and notes go on.</span>
          <button matButton="outlined" (click)="take()">Keep this job on this device</button>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: center;
      justify-content: space-between;
    }
    button {
      min-height: 44px;
    }
  `,
})
export class TakeAlong {
  private readonly api = inject(Api);
  private readonly field = inject(Field);
  readonly jobId = input.required<string>();
  protected readonly away = inject(Reach).awaySince;
  protected readonly taken = computed(() => this.field.jobs().find(({ jobId }) => jobId === this.jobId()));
  protected readonly taking = signal<{ done: number; all: number } | null>(null);
  protected readonly problem = signal<Problem | null>(null);
  private stopped = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  protected stop(): void {
    this.stopped = true;
  }

  /** Asks for all that the job's rooms read; what is answered is kept on the way. */
  protected async take(): Promise<void> {
    const jobId = this.jobId();
    const params = { jobId };
    this.stopped = false;
    this.problem.set(null);
    this.taking.set({ done: 0, all: 0 });
    try {
      // A browser that is short of room drops what nobody asked it to keep.
      await (navigator as { storage?: StorageManager }).storage?.persist?.().catch(() => false);
      await Promise.all([
        firstValueFrom(this.api.call('listJobs', {})),
        firstValueFrom(this.api.call('kit', {})),
        firstValueFrom(this.api.call('listInstruments', {})),
        firstValueFrom(this.api.call('readAtHand', {})),
        firstValueFrom(this.api.call('readHands', {})),
        firstValueFrom(this.api.call('spoilCounts', {})),
        firstValueFrom(this.api.call('listVelocities', {})),
        firstValueFrom(this.api.call('listReels', {})),
        firstValueFrom(this.api.call('currentRound', { params })),
        firstValueFrom(this.api.call('jobPatterns', { params })),
      ]);
      const links = await firstValueFrom(this.api.call('listLinks', { params }));
      this.taking.set({ done: 0, all: links.length });
      await lastValueFrom(
        from(links).pipe(
          mergeMap(async ({ id: linkId }) => {
            if (this.stopped) return;
            await firstValueFrom(this.api.call('getLink', { params: { linkId } }));
            await firstValueFrom(this.api.call('listTraces', { params: { linkId } }));
          }, AT_ONCE),
          tap(() => this.taking.update((taking) => taking && { ...taking, done: taking.done + 1 })),
        ),
        { defaultValue: undefined },
      );
      if (!this.stopped) await this.field.took(jobId, links.length);
    } catch (error) {
      this.problem.set(problemOf(error));
    } finally {
      this.taking.set(null);
    }
  }

  protected leave(): void {
    void this.field.leave(this.jobId());
  }
}
