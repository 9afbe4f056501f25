import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { AdapterPhoto } from '@near-spoke/contracts';
import { typedNumber, type AdapterEnd, type Room } from '@near-spoke/core';
import { photoAddress } from '../api/api';
import { asJpeg } from '../ui/as-jpeg';
import { AdapterBench } from './adapter-bench';

/** How a connector lies, its body, and the room it has. */
export interface RoomTold {
  note: string;
  body?: Room;
  room?: Room;
}

const SIDES = ['widthMm', 'heightMm', 'lengthMm'] as const;
const SIDE_NAMES = { widthMm: 'wide', heightMm: 'high', lengthMm: 'long' } as const;
type Typed = Record<(typeof SIDES)[number], string>;

const typedOf = (room: Room | undefined): Typed => ({
  widthMm: room ? String(room.widthMm) : '',
  heightMm: room ? String(room.heightMm) : '',
  lengthMm: room ? String(room.lengthMm) : '',
});
function roomOf(typed: Typed): Room | undefined | null {
  if (SIDES.every((side) => typed[side].trim() === '')) return undefined;
  const [widthMm, heightMm, lengthMm] = SIDES.map((side) => typedNumber(typed[side]));
  return widthMm && heightMm && lengthMm && widthMm > 0 && heightMm > 0 && lengthMm > 0
    ? { widthMm, heightMm, lengthMm }
    : null;
}

/** Body and room of a connector, with a note and photos of which way round it lies. */
@Component({
  selector: 'ns-end-room',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label
      >Which way round it lies
      <textarea
        rows="2"
        maxlength="2000"
        [value]="note()"
        (input)="note.set($any($event.target).value)"
      ></textarea>
    </label>
    @for (
      each of [
        { name: 'The plug’s body, mm', typed: body },
        { name: 'Room where it goes, mm', typed: room },
      ];
      track each.name
    ) {
      <fieldset>
        <legend>{{ each.name }}</legend>
        @for (side of sides; track side) {
          <label
            >{{ sideNames[side] }}
            <input
              inputmode="decimal"
              [value]="each.typed()[side]"
              (input)="type(each.typed, side, $any($event.target).value)"
          /></label>
        }
      </fieldset>
    }
    <p role="alert" class="wrong">{{ wrong() }}</p>
    <button matButton="filled" class="main-action" [disabled]="wrong() !== ''" (click)="take()">
      Take it
    </button>
    @if (bench.record()) {
      <div class="photos">
        @for (photo of photos(); track photo.id) {
          <figure>
            <img [src]="address(photo)" [alt]="photo.words" />
            <figcaption class="small quiet">{{ photo.words }}, {{ photo.by }}</figcaption>
          </figure>
        }
        <div class="new">
          <label
            >What the photo shows
            <input maxlength="120" [value]="words()" (input)="words.set($any($event.target).value)"
          /></label>
          <label class="file"
            >Add a photo
            <input
              type="file"
              accept="image/*"
              capture="environment"
              [disabled]="words().trim() === ''"
              (change)="addPhoto($event)"
            />
          </label>
          <p role="alert" class="wrong">{{ photoWrong() }}</p>
        </div>
      </div>
    } @else {
      <p class="small quiet">Photos can be added once the adapter is kept.</p>
    }
  `,
  styleUrl: './end-room.scss',
})
export class EndRoom {
  protected readonly bench = inject(AdapterBench);
  readonly end = input.required<AdapterEnd>();
  readonly taken = output<RoomTold>();
  protected readonly sides = SIDES;
  protected readonly sideNames = SIDE_NAMES;
  protected readonly note = linkedSignal(() => this.end().note ?? '');
  protected readonly body = linkedSignal(() => typedOf(this.end().body));
  protected readonly room = linkedSignal(() => typedOf(this.end().room));
  protected readonly words = signal('');
  protected readonly photoWrong = signal('');
  protected readonly photos = computed(() =>
    (this.bench.record()?.photos ?? []).filter(({ end }) => end === this.end().id),
  );
  protected readonly wrong = computed(() =>
    roomOf(this.body()) === null || roomOf(this.room()) === null
      ? 'Give all three sizes over 0 mm, or none.'
      : '',
  );

  protected type(typed: typeof this.body, side: keyof Typed, text: string): void {
    typed.update((sizes) => ({ ...sizes, [side]: text }));
  }

  protected take(): void {
    const [body, room] = [roomOf(this.body()), roomOf(this.room())];
    if (body === null || room === null) return;
    this.taken.emit({
      note: this.note().trim(),
      ...(body ? { body } : {}),
      ...(room ? { room } : {}),
    });
  }

  protected address(photo: AdapterPhoto): string {
    return photoAddress(this.bench.id() ?? '', photo.id);
  }

  protected async addPhoto(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    this.photoWrong.set('');
    let jpeg: string;
    try {
      jpeg = await asJpeg(file);
    } catch {
      this.photoWrong.set(`${file.name} is no picture that can be read here: take a JPEG or PNG.`);
      return;
    }
    const id = crypto.randomUUID() as string;
    if (await this.bench.photo({ id, end: this.end().id, words: this.words().trim(), jpeg }))
      this.words.set('');
    else this.photoWrong.set(this.bench.problem()?.detail ?? '');
  }
}
