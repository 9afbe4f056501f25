import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

const NAMES: Record<string, string> = {
  PageDown: 'Page Down',
  PageUp: 'Page Up',
  ' ': 'Space',
  Backspace: 'Backspace',
  Enter: 'Enter',
};

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
            <dd>{{ row.words }}</dd>
          </div>
        }
        <div>
          <dt><kbd>?</kbd></dt>
          <dd>this list</dd>
        </div>
      </dl>
    </mat-dialog-content>
    <mat-dialog-actions><button matButton mat-dialog-close>Close</button></mat-dialog-actions>
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
  protected readonly rows = this.actions.map(({ key, words }) => ({
    name: NAMES[key] ?? key.toUpperCase(),
    words,
  }));
}
