import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { fieldErrors, newReel } from '@near-spoke/contracts';
import { typedNumber, type CableType } from '@near-spoke/core';
import { ReelsStore } from './reels-store';

/** Enters a drum or a box as its label tells it. */
@Component({
  selector: 'ns-new-reel',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Enter a drum or box</h2>
    <form (submit)="enter($event)">
      <label
        >Name <input required maxlength="40" [value]="name()" (input)="name.set($any($event.target).value)"
      /></label>
      <label
        >It is a
        <select (change)="kind.set($any($event.target).value)">
          <option value="drum">drum</option>
          <option value="box">box</option>
        </select></label
      >
      <label
        >Cable
        <select (change)="cableTypeId.set($any($event.target).value)">
          @for (cable of cables(); track cable.id) {
            <option [value]="cable.id" [selected]="cable.id === chosen()">{{ cable.name }}</option>
          }
        </select></label
      >
      <label>Lot <input maxlength="40" [value]="lot()" (input)="lot.set($any($event.target).value)" /></label>
      <label
        >Metres on the label, if it says
        <input inputmode="decimal" [value]="labelled()" (input)="labelled.set($any($event.target).value)"
      /></label>
      <p class="wrong" role="alert">{{ name() === '' ? '' : wrong() }}</p>
      <div class="row">
        <button
          matButton="filled"
          class="main-action"
          type="submit"
          [disabled]="wrong() !== '' || shelf.busy()"
        >
          Enter it
        </button>
        <button matButton type="button" (click)="left.emit()">Leave it <kbd>Esc</kbd></button>
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 10px;
      max-width: 420px;
    }
    label {
      display: grid;
      gap: 3px;
      font-size: 14px;
    }
    input,
    select {
      font: inherit;
      min-height: 44px;
      padding: 0 10px;
      color: var(--ink);
      background: var(--film);
      border: 1px solid var(--ink-2);
      border-radius: 6px;
    }
    .row {
      display: flex;
      gap: 10px;
      align-items: center;
    }
  `,
})
export class NewReelForm {
  protected readonly shelf = inject(ReelsStore);
  readonly cables = input.required<readonly CableType[]>();
  /** The reel's id. */
  readonly added = output<string>();
  readonly left = output();
  protected readonly name = signal('');
  protected readonly kind = signal<'drum' | 'box'>('drum');
  protected readonly cableTypeId = signal('');
  protected readonly lot = signal('');
  protected readonly labelled = signal('');
  protected readonly chosen = computed(() => this.cableTypeId() || (this.cables()[0]?.id ?? ''));
  private readonly draft = computed(() => ({
    id: crypto.randomUUID() as string,
    name: this.name(),
    kind: this.kind(),
    cableTypeId: this.chosen(),
    lot: this.lot(),
    labelledM: this.labelled().trim() === '' ? null : typedNumber(this.labelled()),
  }));
  protected readonly wrong = computed(() => {
    const parsed = newReel.safeParse(this.draft());
    return parsed.success ? '' : (fieldErrors(parsed.error)[0]?.message ?? '');
  });

  protected async enter(event: Event): Promise<void> {
    event.preventDefault();
    const draft = this.draft();
    if (await this.shelf.add(draft)) this.added.emit(draft.id);
  }
}
