import { DOCUMENT } from '@angular/common';
import { ApplicationRef, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Preferences } from '../preferences/preferences';
import { keyOf } from './key-of';

/** A key, what it does in words, and the doing. */
export interface KeyAction {
  /** As `KeyboardEvent.key` says it; letters in lower case. */
  key: string;
  words: string;
  run: (event: KeyboardEvent) => void;
  /** Not offered while this is false. */
  when?: () => boolean;
}

/** Elements that use keys themselves. */
function takesText(target: EventTarget | null): boolean {
  const element = target as HTMLElement | null;
  return (
    element?.closest?.(
      'input, textarea, select, [contenteditable], [role="listbox"], [role="menu"], mat-select',
    ) != null
  );
}

const PRESSED_BY_ITSELF = 'button, a[href], summary, [role="button"], [role="menuitem"]';

/** The keys that work now. Pages add theirs while they are shown; `?` lists them all. */
@Injectable({ providedIn: 'root' })
export class Keys {
  private readonly dialog = inject(MatDialog);
  private readonly page = inject(DOCUMENT);
  private readonly preferences = inject(Preferences);
  private readonly application = inject(ApplicationRef);
  readonly actions = signal<readonly KeyAction[]>([]);

  constructor() {
    // Drawn before each key: it must meet the page that the click or key before it asked for, not the one from before.
    const draw = (): void => this.application.tick();
    const handle = (event: KeyboardEvent): void => this.handle(event);
    this.page.addEventListener('keydown', draw, { capture: true });
    this.page.addEventListener('keydown', handle);
    inject(DestroyRef).onDestroy(() => {
      this.page.removeEventListener('keydown', draw, { capture: true });
      this.page.removeEventListener('keydown', handle);
    });
  }

  /** Adds keys for as long as the calling component lives. */
  use(actions: readonly KeyAction[], until: DestroyRef): void {
    this.actions.update((all) => [...all, ...actions]);
    until.onDestroy(() => this.actions.update((all) => all.filter((action) => !actions.includes(action))));
  }

  showList(): void {
    const data = this.actions().filter((action) => action.words !== '' && (action.when?.() ?? true));
    void import('./key-list').then(({ KeyList }) => this.dialog.open(KeyList, { autoFocus: 'dialog', data }));
  }

  private handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if (this.dialog.openDialogs.length > 0) return;
    // A foot switch sends these two; in a field of one line they mean nothing else.
    const pressed = keyOf(event);
    const own = this.preferences.ownKeys()[pressed];
    const pedal =
      (event.key === 'PageDown' || event.key === 'PageUp') && event.target instanceof HTMLInputElement;
    if (takesText(event.target) && !pedal) return;
    if (own === undefined && event.key === '?') {
      this.showList();
      event.preventDefault();
      return;
    }
    const target = event.target as HTMLElement | null;
    // A control that drawing has just taken away can no longer be pressed; its key is the page's.
    const onControl = target?.isConnected === true && target.closest?.(PRESSED_BY_ITSELF) != null;
    if (own === undefined && onControl && (event.key === 'Enter' || event.key === ' ')) return;
    const key = own ?? pressed;
    // The newest page's key wins over an older one's.
    const action = this.actions().findLast((a) => a.key === key && (a.when?.() ?? true));
    if (!action) return;
    event.preventDefault();
    action.run(event);
    // And after it: what the key did is seen at once.
    this.application.tick();
  }
}
