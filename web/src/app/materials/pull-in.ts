import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from '@angular/core';
import { FormArray, FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { NewPull } from '@near-spoke/contracts';
import {
  cableLengthFromM,
  cableLengthToM,
  cableLengthUnit,
  type Pull,
  type UnitSystem,
} from '@near-spoke/core';
import { JacketMarks, type ToldByMarks } from '../reels/jacket-marks';
import { ReelsStore } from '../reels/reels-store';
import { NumberField } from '../ui/number-field';

/** Longer than this, cable comes on a drum. */
const MOST_IN_A_BOX_M = 310;

interface NewBox {
  source: string;
  name: FormControl<string>;
}

const isSamePull = (a: Pull, b: Pull): boolean =>
  a.name === b.name &&
  a.pieces.length === b.pieces.length &&
  a.pieces.every((piece, n) => {
    const other = b.pieces[n];
    return piece.label === other?.label && piece.source === other.source && piece.heldId === other.heldId;
  });

/** One pull that is in: how much was cut off for each link, and what the boxes are called that were opened for it. */
@Component({
  selector: 'ns-pull-in',
  imports: [
    ReactiveFormsModule,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    NumberField,
    JacketMarks,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form()" (ngSubmit)="keep()" [attr.aria-label]="'Pulled: ' + told().name">
      @for (box of boxes(); track box.source) {
        <mat-form-field subscriptSizing="dynamic">
          <mat-label>{{ box.source }} is called</mat-label>
          <input matInput [formControl]="box.name" maxlength="40" autocomplete="off" />
        </mat-form-field>
      }
      <div class="lengths" formArrayName="lengths">
        @for (piece of told().pieces; track piece.label; let n = $index) {
          <div>
            <ns-number-field
              [formControlName]="n"
              [label]="piece.label + ', cut off'"
              [unit]="unit()"
              [least]="0.01"
              [most]="33000"
              [required]="true"
            />
            <ns-jacket-marks (told)="takeMarks(n, $event)" />
          </div>
        }
      </div>
      <div class="row">
        <button
          matButton="filled"
          type="submit"
          class="main-action"
          [disabled]="form().invalid || reels.busy()"
        >
          Write it into the ledgers
        </button>
        <button matButton type="button" (click)="done.emit()">Leave it</button>
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
      padding: 8px 0 4px;
    }
    .lengths {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
      gap: 8px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
  `,
})
export class PullIn {
  protected readonly reels = inject(ReelsStore);
  readonly pull = input.required<Pull>();
  readonly cableTypeId = input.required<string>();
  /** Ids of links by their labels. */
  readonly links = input.required<ReadonlyMap<string, string>>();
  /** What a new box or drum holds by its label, by what the plan calls it, metres. */
  readonly holds = input.required<ReadonlyMap<string, number>>();
  readonly units = input.required<UnitSystem>();
  readonly done = output();

  protected readonly unit = computed(() => cableLengthUnit(this.units()));
  /** The same pull, planned again because a ledger changed elsewhere, is still the one that is being told of. */
  protected readonly told = computed(() => this.pull(), { equal: isSamePull });
  protected readonly boxes = computed((): NewBox[] => {
    const sources = this.told().pieces.filter(({ heldId }) => heldId === null);
    const there = untracked(this.reels.reels).length;
    return [...new Set(sources.map(({ source }) => source))].map((source, n) => ({
      source,
      name: new FormControl(`Box ${there + n + 1}`, {
        nonNullable: true,
        validators: [Validators.required, Validators.maxLength(40)],
      }),
    }));
  });
  protected readonly form = computed(
    () =>
      new FormGroup({
        lengths: new FormArray(
          this.told().pieces.map(
            ({ lengthM }) =>
              new FormControl<number | null>(
                Math.round(10 * cableLengthFromM(lengthM, this.units())) / 10,
                Validators.required,
              ),
          ),
        ),
        names: new FormArray(this.boxes().map(({ name }) => name)),
      }),
  );
  /** Ids of what is to be kept, made once: told again, it is the same. */
  private readonly ids = computed(() => ({
    boxes: new Map(this.boxes().map(({ source }) => [source, crypto.randomUUID()])),
    pieces: this.told().pieces.map(() => crypto.randomUUID()),
  }));

  constructor() {
    effect(() => {
      this.told();
      this.reels.clear();
    });
  }

  /** What was read off a jacket, by piece, and the length it tells; it goes into the ledger in words. */
  private readonly marks = linkedSignal<Pull, readonly { words: string; length: number }[]>({
    source: this.told,
    computation: ({ pieces }) => pieces.map(() => ({ words: '', length: NaN })),
  });

  protected takeMarks(piece: number, { lengthM, words }: ToldByMarks): void {
    const length = Math.round(10 * cableLengthFromM(lengthM, this.units())) / 10;
    this.form().controls.lengths.at(piece).setValue(length);
    this.marks.update((marks) => marks.map((before, n) => (n === piece ? { words, length } : before)));
  }

  protected async keep(): Promise<void> {
    if (this.form().invalid) return;
    const { boxes, pieces } = this.ids();
    const lengths = this.form().getRawValue().lengths;
    const body: NewPull = {
      reels: this.boxes().map(({ source, name }) => {
        const labelledM = this.holds().get(source) ?? null;
        return {
          id: boxes.get(source) ?? '',
          name: name.value.trim(),
          kind: (labelledM ?? 0) > MOST_IN_A_BOX_M ? ('drum' as const) : ('box' as const),
          cableTypeId: this.cableTypeId(),
          labelledM,
        };
      }),
      pieces: this.told().pieces.map(({ label, source, heldId }, n) => ({
        id: pieces[n] ?? '',
        reelId: heldId ?? boxes.get(source) ?? '',
        linkId: this.links().get(label) ?? '',
        lengthM: cableLengthToM(lengths[n] ?? 0, this.units()),
        // A length that was typed after all is not what the marks say.
        words: this.marks()[n]?.length === lengths[n] ? (this.marks()[n]?.words ?? '') : '',
      })),
    };
    if (await this.reels.pulled(body)) this.done.emit();
  }
}
