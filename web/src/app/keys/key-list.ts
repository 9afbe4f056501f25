import { DOCUMENT } from '@angular/common';
import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { Preferences } from '../preferences/preferences';
import { keyOf } from './key-of';

const NAMES: Record<string, string> = {
  PageDown: 'Page Down',
  PageUp: 'Page Up',
  ' ': 'Space',
  Backspace: 'Backspace',
  Enter: 'Enter',
};
/** What hands that are busy need on a pedal, a presenter or a pad. */
const TAUGHT = ['PageDown', 'PageUp', 'Backspace'];

/** Every key that works on the page behind it. */
@Component({
  selector: 'ns-key-list',
  imports: [MatDialogModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keys here</h2>
    <mat-dialog-content>
      <dl>
        @for (row of rows; track $index) {
          <div>
            <dt>
              <kbd>{{ row.name }}</kbd>
            </dt>
            <dd>
              {{ row.words }}
              @if (row.taught) {
                @for (own of ownOf(row.key); track own) {
                  <span class="small"
                    >or <kbd>{{ nameOf(own) }}</kbd></span
                  >
                }
                <button matButton (click)="teaching.set(row.key)">
                  {{ teaching() === row.key ? 'Press it now' : 'Another key' }}
                </button>
              }
            </dd>
          </div>
        }
        <div>
          <dt><kbd>?</kbd></dt>
          <dd>this list</dd>
        </div>
      </dl>
    </mat-dialog-content>
    <mat-dialog-actions>
      @if (anyOwn()) {
        <button matButton (click)="preferences.forgetKeys()">Forget the other keys</button>
      }
      <button matButton mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    dl {
      display: grid;
      gap: 8px;
    }
    dl div {
      display: grid;
      grid-template-columns: 120px 1fr;
      gap: 12px;
      align-items: center;
    }
    kbd {
      margin: 0;
      font-size: 14px;
    }
  `,
})
export class KeyList {
  private readonly actions = inject<readonly { key: string; words: string }[]>(MAT_DIALOG_DATA);
  protected readonly preferences = inject(Preferences);
  protected readonly rows = this.actions.map(({ key, words }) => ({
    key,
    name: this.nameOf(key),
    words,
    taught: TAUGHT.includes(key),
  }));
  /** The key that another one is to stand for: the next one pressed. */
  protected readonly teaching = signal<string | null>(null);

  constructor() {
    const page = inject(DOCUMENT);
    const take = (event: KeyboardEvent): void => {
      const meant = this.teaching();
      if (meant === null) return;
      event.preventDefault();
      event.stopPropagation();
      this.teaching.set(null);
      if (event.key !== 'Escape' && keyOf(event) !== meant) this.preferences.teachKey(keyOf(event), meant);
    };
    page.addEventListener('keydown', take, { capture: true });
    inject(DestroyRef).onDestroy(() => page.removeEventListener('keydown', take, { capture: true }));
  }

  protected nameOf(key: string): string {
    return NAMES[key] ?? key.toUpperCase();
  }

  protected ownOf(key: string): string[] {
    return Object.entries(this.preferences.ownKeys()).flatMap(([own, meant]) => (meant === key ? [own] : []));
  }

  protected anyOwn(): boolean {
    return Object.keys(this.preferences.ownKeys()).length > 0;
  }
}
