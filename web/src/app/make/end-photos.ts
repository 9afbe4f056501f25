import { ChangeDetectionStrategy, Component, model, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { asJpeg } from '../ui/as-jpeg';
import { FileDrop } from '../ui/file-drop';

/** A photo that is not kept yet; the id is that of the record that it becomes. */
export interface TakenPhoto {
  id: string;
  jpeg: string;
}

const MOST = 6;

/** Photos of a finished end, taken before it is kept. */
@Component({
  selector: 'ns-end-photos',
  imports: [MatButtonModule, FileDrop],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (photos().length < most) {
      <ns-file-drop label="Photo of the finished end" accept="image/*" (dropped)="take($event)" />
    }
    @if (wrong()) {
      <p class="wrong" role="alert">{{ wrong() }}</p>
    }
    @if (photos().length > 0) {
      <ul>
        @for (photo of photos(); track photo.id; let n = $index) {
          <li>
            <img
              [src]="'data:image/jpeg;base64,' + photo.jpeg"
              [alt]="'Photo ' + (n + 1) + ', not kept yet'"
            />
            <button matButton type="button" (click)="leaveOut(photo.id)">Leave it out</button>
          </li>
        }
      </ul>
      <p class="small quiet">Place and time that a camera wrote into them are left out.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      width: min(100%, 420px);
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
    }
    li {
      display: grid;
      justify-items: center;
    }
    img {
      height: 96px;
      max-width: 200px;
      object-fit: cover;
      border-radius: var(--round);
    }
  `,
})
export class EndPhotos {
  readonly photos = model.required<readonly TakenPhoto[]>();
  protected readonly most = MOST;
  protected readonly wrong = signal('');

  protected async take(file: File): Promise<void> {
    this.wrong.set('');
    try {
      const jpeg = await asJpeg(file);
      this.photos.update((photos) => [...photos, { id: crypto.randomUUID(), jpeg }]);
    } catch {
      this.wrong.set(`${file.name} is no picture that can be read here: take a JPEG or PNG.`);
    }
  }

  protected leaveOut(id: string): void {
    this.photos.update((photos) => photos.filter((photo) => photo.id !== id));
  }
}
