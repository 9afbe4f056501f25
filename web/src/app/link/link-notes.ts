import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { LinkNote, NewLinkNote } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { DeviceTime } from '../field/device-time';
import { notePhotoAddress } from '../api/api';
import { sessionFeature } from '../session/session.state';
import { asJpeg } from '../ui/as-jpeg';
import { FileDrop } from '../ui/file-drop';
import { LinkFacts } from './link-facts';
import { LinkEvents, linkFeature } from './link.state';

/** What to know about the link that is open, for whoever opens the wall next: notes, and photos of its ends. */
@Component({
  selector: 'ns-link-notes',
  imports: [
    DatePipe,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    FileDrop,
    DeviceTime,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './link-notes.html',
  styleUrl: './link-notes.scss',
})
export class LinkNotes {
  private readonly store = inject(Store);
  private readonly detail = inject(LinkFacts).detail;
  protected readonly busy = this.store.selectSignal(linkFeature.selectBusy);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly words = signal('');
  protected readonly end = signal<LinkNote['end']>(null);
  /** A photo that is not kept yet. */
  protected readonly photo = signal<{ jpeg: string; shown: string } | null>(null);
  protected readonly wrong = signal('');
  private id = crypto.randomUUID() as string;

  protected readonly notes = computed(() => [...(this.detail()?.notes ?? [])].reverse());
  /** How many photos there are, and what they come to. */
  protected readonly photos = computed(() => {
    const kept = this.notes().flatMap(({ photo }) => photo ?? []);
    const bytes = kept.reduce((sum, one) => sum + one.bytes, 0);
    if (kept.length === 0) return '';
    return `${kept.length === 1 ? '1 photo' : `${kept.length} photos`}, ${Math.ceil(bytes / 1000)} kB`;
  });
  protected readonly missing = computed(() =>
    this.words().trim() === '' && !this.photo() ? 'Write something, or take a photo.' : '',
  );

  constructor() {
    const kept = this.store.selectSignal(linkFeature.selectKept);
    effect(() => {
      if (kept() !== 'note') return;
      // The next one is another record.
      this.id = crypto.randomUUID();
      this.words.set('');
      this.photo.set(null);
    });
  }

  protected address({ id }: LinkNote): string {
    return notePhotoAddress(this.detail()?.link.id ?? '', id);
  }

  protected async take(file: File): Promise<void> {
    this.wrong.set('');
    try {
      const jpeg = await asJpeg(file);
      this.photo.set({ jpeg, shown: `data:image/jpeg;base64,${jpeg}` });
    } catch {
      this.wrong.set(`${file.name} is no picture that can be read here: take a JPEG or PNG.`);
    }
  }

  protected keep(): void {
    const linkId = this.detail()?.link.id;
    if (!linkId || this.busy() || this.missing()) return;
    const note: NewLinkNote = {
      id: this.id,
      end: this.end(),
      words: this.words().trim(),
      jpeg: this.photo()?.jpeg ?? null,
    };
    this.store.dispatch(LinkEvents.noteMade({ linkId, note }));
  }
}
