import { DOCUMENT } from '@angular/common';
import { DestroyRef, inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { linkCode, linkScanned } from '@near-spoke/core/labels';

/** A reader types faster than a hand does: its letters come closer together than this. */
const BETWEEN_MS = 60;
/** A reader's text is longer than what anybody types in one go of such a pace. */
const LEAST = 25;

/**
 * A label read by a reader that types what it sees, anywhere in the application: opens its link. What the reader typed
 * is kept from the page's keys once it is plain that no hand types it.
 */
@Injectable({ providedIn: 'root' })
export class LabelReader {
  private readonly router = inject(Router);
  private read = '';
  private last = 0;

  constructor() {
    const page = inject(DOCUMENT);
    const hear = (event: KeyboardEvent): void => this.hear(event);
    page.addEventListener('keydown', hear, { capture: true });
    inject(DestroyRef).onDestroy(() => page.removeEventListener('keydown', hear, { capture: true }));
  }

  private hear(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const quick = event.timeStamp - this.last < BETWEEN_MS;
    this.last = event.timeStamp;
    if (event.key.length === 1) {
      this.read = quick ? this.read + event.key : event.key;
      return;
    }
    if (event.key === 'Shift') return;
    const text = quick ? this.read : '';
    this.read = '';
    if ((event.key !== 'Enter' && event.key !== 'Tab') || text.length < LEAST) return;
    const linkId = linkScanned(text);
    if (linkId === null) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    void this.router.navigate(['/l', linkCode(linkId)]);
  }
}
