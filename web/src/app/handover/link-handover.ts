import { DatePipe } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { LinkDetail } from '@near-spoke/contracts';
import { blindnessInWords, takenWith } from '@near-spoke/core';
import { linkStory } from '@near-spoke/core/report';
import { Store } from '@ngrx/store';
import { DeviceTime } from '../field/device-time';
import { StageGlyph } from '../drawing/stage-glyph';
import { jobsFeature } from '../jobs/jobs.state';
import { Keys } from '../keys/keys';
import { LinkFacts } from '../link/link-facts';
import { LinkNotes } from '../link/link-notes';
import { LinkEvents, linkFeature } from '../link/link.state';
import { sessionFeature } from '../session/session.state';

/** What is handed over with a link: the proof, what it rests on, and its whole story. */
@Component({
  selector: 'ns-link-handover',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    LinkNotes,
    StageGlyph,
    DeviceTime,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="rooms">
      <section class="sheet" aria-labelledby="state-title">
        <h2 id="state-title"><ns-stage-glyph [stage]="detail().link.stage" /> {{ title() }}</h2>
        @if (detail().diagnosis; as diagnosis) {
          <p>{{ diagnosis.headline }}. {{ diagnosis.detail }}</p>
          @if (proof(); as proof) {
            <dl>
              <dt>Proved with</dt>
              <dd>{{ restsOn() }}</dd>
              <dt>By</dt>
              <dd>{{ proof.by }}, {{ proof.at | date: 'd MMM y HH:mm' }}</dd>
              <dt>Cannot see</dt>
              <dd>{{ blindness(diagnosis.blindTo) || 'nothing on our list' }}</dd>
            </dl>
          }
        }
        @switch (detail().link.stage) {
          @case ('proved') {
            @if (mayWork()) {
              <button matButton="filled" class="main-action next-action" [disabled]="busy()" (click)="give()">
                Hand it over <kbd>Enter</kbd>
              </button>
            }
          }
          @case ('handed-over') {
            <p>
              Handed over by {{ handed()?.by }}, {{ handed()?.at | date: 'd MMM y HH:mm' }}. Work or a new
              reading opens it again.
            </p>
            @if (nextLink(); as next) {
              <button matButton="filled" class="main-action next-action" (click)="goOn()">
                Go on to {{ next.label }} <kbd>Enter</kbd>
              </button>
            }
            <a
              matButton="outlined"
              class="main-action"
              [routerLink]="['/jobs', detail().link.jobId, 'hand-over']"
              >Report of the job</a
            >
            @if (mayWork()) {
              <div class="reopen">
                <mat-form-field subscriptSizing="dynamic">
                  <mat-label>To take it back, say why</mat-label>
                  <input
                    #reason
                    matInput
                    maxlength="300"
                    autocomplete="off"
                    [value]="why()"
                    (input)="why.set(reason.value)"
                  />
                </mat-form-field>
                <button matButton [disabled]="why().trim() === '' || busy()" (click)="takeBack()">
                  Take it back
                </button>
              </div>
            }
          }
          @default {
            <p>It cannot be handed over yet: {{ detail().link.standing }}.</p>
            <a
              matButton="filled"
              class="main-action"
              [routerLink]="['/jobs', detail().link.jobId, 'links', detail().link.id, 'verify']"
              >{{ detail().link.nextStep }}</a
            >
          }
        }
      </section>
      <section class="sheet" aria-labelledby="story-title">
        <h2 id="story-title">Its story</h2>
        <ol>
          @for (event of story(); track $index) {
            <li>
              <span class="figure quiet">{{ event.at | date: 'd MMM HH:mm' }}</span><span
                >{{ event.note ? event.what + ': ' + event.note : event.what }}
                <span class="quiet">{{ event.by }}</span>
                <ns-device-time [at]="event.deviceAt"
              /></span>
            </li>
          } @empty {
            <li class="quiet">Nothing recorded yet.</li>
          }
        </ol>
      </section>
      <ns-link-notes class="sheet notes" role="region" aria-labelledby="notes-title" />
    </div>
  `,
  styles: `
    .rooms {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px;
    }
    section {
      padding: 18px 20px;
      display: grid;
      gap: 12px;
      align-content: start;
    }
    .notes {
      grid-column: 1 / -1;
      padding: 18px 20px;
    }
    .reopen {
      display: grid;
      grid-template-columns: 1fr auto;
      align-items: center;
      gap: 8px;
    }
    dl,
    li {
      display: grid;
      grid-template-columns: 110px 1fr;
      gap: 4px 12px;
    }
    dt {
      color: var(--ink-2);
    }
    ol {
      display: grid;
      gap: 6px;
      max-height: 300px;
      overflow: auto;
    }
    @media (max-width: 900px) {
      .rooms {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class LinkHandover {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly facts = inject(LinkFacts);
  protected readonly blindness = blindnessInWords;
  protected readonly detail = computed(() => this.facts.detail() as LinkDetail);
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly links = this.store.selectSignal(jobsFeature.selectAllLinks);
  protected readonly proof = computed(() => this.detail().tests.at(-1));
  /** Everything the verdict rests on, not the last reading alone: that may have been a look at colours. */
  protected readonly restsOn = computed(() => {
    const { diagnosis, tests } = this.detail();
    return [...new Set(diagnosis?.restsOn)]
      .map((name) => {
        const last = tests.findLast((test) => takenWith(test.reading) === name);
        return last?.source === 'keyed' ? `${name}, keyed in` : last?.simulated ? `${name}, simulated` : name;
      })
      .join('; ');
  });
  protected readonly handed = computed(() => this.detail().handovers.at(-1));
  protected readonly nextLink = computed(() => {
    const others = this.links().filter((link) => link.id !== this.detail().link.id);
    return (
      others.find((link) => link.stage === 'failed') ??
      others.find((link) => link.stage === 'both-ends' || link.stage === 'proved')
    );
  });
  protected readonly title = computed(() => {
    const { stage, label } = this.detail().link;
    if (stage === 'handed-over') return `${label} is handed over`;
    return stage === 'proved' ? `${label} is proved` : `${label} is not proved`;
  });
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly story = computed(() => {
    const names = new Map(this.kit()?.connectors.map(({ id, name }) => [id, name]));
    return linkStory(this.detail(), { connector: (id) => names.get(id) ?? id }).reverse();
  });
  protected readonly why = signal('');
  private reopeningId = crypto.randomUUID();
  private id = crypto.randomUUID();

  constructor() {
    const kept = this.store.selectSignal(linkFeature.selectKept);
    effect(() => {
      // The next one is another record.
      if (kept() === 'reopening') {
        this.reopeningId = crypto.randomUUID();
        this.id = crypto.randomUUID();
        this.why.set('');
      }
    });
    inject(Keys).use(
      [
        {
          key: 'Enter',
          words: 'hand it over',
          run: () => this.give(),
          when: () => this.detail().link.stage === 'proved' && this.mayWork(),
        },
        {
          key: 'Enter',
          words: 'go on to the next link',
          run: () => this.goOn(),
          when: () => this.detail().link.stage === 'handed-over' && this.nextLink() !== undefined,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected give(): void {
    if (!this.busy())
      this.store.dispatch(LinkEvents.handoverGiven({ linkId: this.detail().link.id, id: this.id }));
  }

  protected takeBack(): void {
    const [linkId, reason] = [this.detail().link.id, this.why().trim()];
    if (this.busy() || reason === '') return;
    this.store.dispatch(LinkEvents.handoverTakenBack({ linkId, id: this.reopeningId, reason }));
  }

  protected goOn(): void {
    const next = this.nextLink();
    if (next) void this.router.navigate(['/jobs', next.jobId, 'links', next.id, 'verify']);
  }
}
