import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';

/** Takes one file: dropped on it, or chosen by a click or a key. */
@Component({
  selector: 'ns-file-drop',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label
      [class.over]="over()"
      (dragover)="$event.preventDefault(); over.set(true)"
      (dragleave)="over.set(false)"
      (drop)="take($event)"
    >
      <span>{{ label() }}</span>
      <span class="small quiet">{{ name() || 'drop it here, or choose it' }}</span>
      <input #box type="file" class="visually-hidden" [accept]="accept()" (change)="choose(box)" />
    </label>
  `,
  styles: `
    label {
      display: grid;
      gap: 2px;
      min-height: 56px;
      padding: 10px 14px;
      align-content: center;
      border: 1.5px dashed var(--ink-2);
      border-radius: var(--round);
      cursor: pointer;
    }
    label.over,
    label:hover {
      background: var(--accent-soft);
    }
    label:focus-within {
      outline: 3px solid var(--accent);
      outline-offset: 2px;
    }
  `,
})
export class FileDrop {
  readonly label = input.required<string>();
  readonly accept = input('');
  readonly dropped = output<File>();
  protected readonly over = signal(false);
  protected readonly name = signal('');

  protected choose(box: HTMLInputElement): void {
    this.give(box.files?.[0]);
    // The same file may be chosen again after it was changed.
    box.value = '';
  }

  protected take(event: DragEvent): void {
    event.preventDefault();
    this.over.set(false);
    this.give(event.dataTransfer?.files[0]);
  }

  private give(file: File | undefined): void {
    if (!file) return;
    this.name.set(file.name);
    this.dropped.emit(file);
  }
}
