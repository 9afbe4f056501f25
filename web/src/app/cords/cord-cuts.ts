import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { formatCableLength, surelyLeftM, type CuttingPlan, type UnitSystem } from '@near-spoke/core';
import { ProblemNote } from '../drawing/problem-note';
import { Cutting } from '../materials/cutting';
import { ReelsStore } from '../reels/reels-store';

/** More pieces than this are not laid out one by one. */
const MOST_PIECES = 1000;

/** Which drums and boxes a batch of cords is cut from, and the cutting written into their ledgers. */
@Component({
  selector: 'ns-cord-cuts',
  imports: [MatButtonModule, ProblemNote],
  providers: [Cutting],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Cut from</h3>
    @if (reels.problem(); as problem) {
      <ns-problem-note [problem]="problem" />
    }
    @if (lines(); as lines) {
      <ul>
        @for (line of lines; track line.id) {
          <li>
            <strong>{{ line.name }}</strong>: {{ line.pieces === 1 ? 'one piece' : line.pieces + ' pieces' }},
            {{ line.cut }};
            <span class="quiet">{{ line.left }} left</span>
          </li>
        }
      </ul>
      @if (mayWork()) {
        <button matButton="outlined" [disabled]="reels.busy()" (click)="write()">
          They are cut: write it into the ledgers
        </button>
      }
    } @else {
      <p class="small quiet" role="status">{{ why() }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    button {
      justify-self: start;
    }
  `,
})
export class CordCuts {
  protected readonly reels = inject(ReelsStore);
  private readonly cutting = inject(Cutting);
  readonly count = input.required<number>();
  readonly pieceM = input.required<number>();
  readonly cableTypeId = input.required<string>();
  /** What the batch is called, as its lines in the ledgers say. */
  readonly name = input.required<string>();
  readonly units = input.required<UnitSystem>();
  readonly mayWork = input(false);

  private readonly held = computed(() =>
    this.reels
      .standing()
      .filter(({ reel, standing }) => reel.cableTypeId === this.cableTypeId() && standing.leftM !== null)
      .map(({ reel, standing }) => ({ id: reel.id, name: reel.name, lengthM: surelyLeftM(standing) })),
  );
  private readonly plan = signal<CuttingPlan | null>(null);
  protected readonly why = signal('');
  /** This batch was cut: said once, it is not offered again until another is asked for. */
  private readonly written = linkedSignal({
    source: () => [this.count(), this.pieceM(), this.cableTypeId(), this.name()].join('|'),
    computation: () => false,
  });
  protected readonly lines = computed(() => {
    const plan = this.plan();
    const long = (m: number): string => formatCableLength(m, this.units());
    return (
      plan?.sources.map(({ heldId, name, pieces, leftM }) => ({
        id: heldId ?? name,
        name,
        pieces: pieces.length,
        cutM: pieces.length * this.pieceM(),
        cut: long(pieces.length * this.pieceM()),
        left: long(leftM),
      })) ?? null
    );
  });

  constructor() {
    void this.reels.load();
    effect(() => {
      const [held, count, lengthM, written] = [this.held(), this.count(), this.pieceM(), this.written()];
      untracked(() => {
        this.plan.set(null);
        this.why.set(written ? 'Written into the ledgers.' : '');
        if (written || !this.reels.loaded()) return;
        if (count > MOST_PIECES) {
          this.why.set(`Over ${MOST_PIECES} pieces are not laid out one by one.`);
          return;
        }
        if (held.length === 0) {
          this.why.set('No drum or box of this cable is known to have any left.');
          return;
        }
        const pieces = Array.from({ length: count }, (_, n) => ({ label: String(n + 1), lengthM }));
        this.cutting.ask('cords', { pieces, held, sizes: [], atOnce: 1 }, (answer) => {
          if (answer.say === 'bad') this.why.set(answer.message);
          else if (answer.say !== 'round') this.plan.set(answer.plan);
        });
      });
    });
  }

  protected async write(): Promise<void> {
    const lines = this.lines() ?? [];
    const words = `${this.count()} ${this.name()}`.trim().slice(0, 120);
    const pieces = lines.map(({ id, cutM }) => ({
      id: crypto.randomUUID() as string,
      reelId: id,
      linkId: null,
      lengthM: cutM,
      words,
    }));
    this.written.set(true);
    if (!(await this.reels.pulled({ reels: [], pieces }))) this.written.set(false);
  }
}
