import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  colourOn,
  joinContacts,
  joinsAt,
  layoutFor,
  placeWords,
  takeOffContact,
  type AdapterDesign,
  type AdapterEnd,
  type ContactLayout,
  type Pin,
  type PinPlace,
  type View,
  type WorkedUpAdapter,
} from '@near-spoke/core';
import { ConnectorFace } from '../drawing/connector-face';
import { Wire } from '../drawing/wire';
import { Keys } from '../keys/keys';

const ROW = 32;
const HEAD = 52;
const GAP = 12;
/** Width of the middle, where the conductors lie, in picture units. */
const SPAN = 240;

interface BenchRow {
  place: PinPlace;
  words: string;
  pin: Pin;
  y: number;
}
interface BenchEnd {
  end: AdapterEnd;
  layout: ContactLayout | null;
  rows: BenchRow[];
}

/** The lead lying down: connectors facing each other, signals as rows, conductors between; joined by drag, by click or by key. */
@Component({
  selector: 'ns-lead-bench',
  imports: [MatButtonModule, ConnectorFace, Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lead-bench.html',
  styleUrl: './lead-bench.scss',
})
export class LeadBench {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly design = input.required<AdapterDesign>();
  readonly worked = input.required<WorkedUpAdapter | null>();
  /** Contacts that a rule was asked about, as "A 3". */
  readonly shown = input<readonly string[]>([]);
  readonly editable = input(true);
  readonly changed = output<AdapterDesign>();
  /** The contact in hand; null when it is put down. */
  readonly inHandChanged = output<PinPlace | null>();
  /** A pinout is to be opened. */
  readonly opened = output<string>();

  protected readonly span = SPAN;
  protected readonly face = signal<View['face']>('rear');
  /** The contact that waits for its mate. */
  protected readonly picked = signal<PinPlace | null>(null);
  protected readonly dragged = signal<{ x: number; y: number } | null>(null);
  protected readonly wrong = computed(
    () =>
      new Set(
        this.worked()
          ?.findings.filter(({ severity }) => severity === 'wrong')
          .flatMap(({ contacts }) => contacts),
      ),
  );

  protected readonly sides = computed((): { left: BenchEnd[]; right: BenchEnd[]; height: number } => {
    const [first, ...others] = this.design().ends;
    const column = (ends: readonly AdapterEnd[]): { ends: BenchEnd[]; height: number } => {
      let y = 0;
      const out = ends.map((end): BenchEnd => {
        y += HEAD;
        const rows = end.pins.map((pin): BenchRow => {
          const place = { end: end.id, contact: pin.contact };
          const row = { place, words: placeWords(place), pin, y: y + ROW / 2 };
          y += ROW;
          return row;
        });
        y += GAP;
        return { end, layout: drawn(end), rows };
      });
      return { ends: out, height: y };
    };
    const [left, right] = [column(first ? [first] : []), column(others)];
    return { left: left.ends, right: right.ends, height: Math.max(left.height, right.height, 60) };
  });
  protected readonly columns = computed(() => [
    { side: 'left', ends: this.sides().left },
    { side: 'right', ends: this.sides().right },
  ]);
  protected readonly drawnEnds = computed(() => [...this.sides().left, ...this.sides().right]);

  /** Conductors as they lie, each from contact to contact. */
  protected readonly wires = computed(() => {
    const { left, right } = this.sides();
    const at = (place: PinPlace): { x: number; y: number; turn: 1 | -1 } | null => {
      const find = (ends: readonly BenchEnd[]): BenchRow | undefined =>
        ends.flatMap(({ rows }) => rows).find(({ words }) => words === placeWords(place));
      const onLeft = find(left);
      if (onLeft) return { x: 0, y: onLeft.y, turn: 1 };
      const onRight = find(right);
      return onRight ? { x: SPAN, y: onRight.y, turn: -1 } : null;
    };
    return this.design().joins.flatMap((join, n) => {
      const [from, to] = [at(join.from), at(join.to)];
      if (!from || !to) return [];
      const bend = from.turn === to.turn ? 54 : SPAN * 0.42;
      const d = `M${from.x} ${from.y}C${from.x + from.turn * bend} ${from.y} ${to.x + to.turn * bend} ${to.y} ${to.x} ${to.y}`;
      const lit = [join.from, join.to].some((place) => this.isLit(placeWords(place)));
      const sideways = from.turn === to.turn ? from.turn * 40 : 0;
      return [
        {
          key: `${placeWords(join.from)} ${placeWords(join.to)} ${n}`,
          d,
          lit,
          // A bridge at one end is a bare bit of wire.
          conductor: join.from.end === join.to.end ? '' : this.conductorOf(join.from),
          parts: join.parts
            .map(({ kind, ohm }) => (ohm === undefined ? kind : `${kind} ${ohm} ohm`))
            .join(', '),
          x: (from.x + to.x) / 2 + sideways,
          y: (from.y + to.y) / 2,
        },
      ];
    });
  });
  protected readonly rubber = computed(() => {
    const [picked, end] = [this.picked(), this.dragged()];
    const row = picked && this.rowOf(placeWords(picked));
    if (!row || !end) return '';
    const x = picked.end === this.design().ends[0]?.id ? 0 : SPAN;
    return `M${x} ${row.y}L${end.x} ${end.y}`;
  });

  constructor() {
    effect(() => this.inHandChanged.emit(this.picked()));
    // What a rule speaks of comes into sight.
    effect(() => {
      const [first] = this.shown();
      if (first === undefined) return;
      this.host.nativeElement.querySelector(`[data-place="${first}"]`)?.scrollIntoView({ block: 'nearest' });
    });
    const may = (): boolean => this.editable();
    inject(Keys).use(
      [
        { key: 'f', words: 'turn the faces over', run: () => this.flip() },
        {
          key: 'x',
          words: 'take every join off the contact in hand',
          run: () => this.takeOff(),
          when: () => may() && this.inHand() !== null,
        },
        {
          key: 'Escape',
          words: 'put the contact down',
          run: () => this.picked.set(null),
          when: () => this.picked() !== null,
        },
      ],
      inject(DestroyRef),
    );
  }

  protected flip(): void {
    this.face.update((face) => (face === 'rear' ? 'mating' : 'rear'));
  }

  protected isLit(words: string): boolean {
    const picked = this.picked();
    return this.shown().includes(words) || (picked !== null && placeWords(picked) === words);
  }

  private justDragged = false;

  protected clicked(place: PinPlace): void {
    if (!this.justDragged) this.pick(place);
  }

  /** Picks a contact, or joins it to the one that was picked; joined already, they are parted. */
  protected pick(place: PinPlace): void {
    if (!this.editable()) return;
    const first = this.picked();
    if (!first || placeWords(first) === placeWords(place)) {
      this.picked.set(first ? null : place);
      return;
    }
    this.picked.set(null);
    const joined = joinContacts(this.design(), first, place);
    this.changed.emit(joined === this.design() ? this.parted(first, place) : joined);
  }

  protected pickContact(end: AdapterEnd, contact: string): void {
    if (end.pins.some((pin) => pin.contact === contact)) this.pick({ end: end.id, contact });
  }

  private parted(one: PinPlace, other: PinPlace): AdapterDesign {
    const design = this.design();
    const both = joinsAt(design, one).filter((join) => joinsAt({ joins: [join] }, other).length > 0);
    return { ...design, joins: design.joins.filter((join) => !both.includes(join)) };
  }

  protected joinWords(place: PinPlace): string {
    const joins = joinsAt(this.design(), place);
    const others = joins.map(({ from, to }) =>
      placeWords(placeWords(from) === placeWords(place) ? to : from),
    );
    return others.length > 0 ? `joined to ${others.join(', ')}` : 'joined to nothing';
  }

  /** The contact that is picked, or the one whose row has the focus. */
  private inHand(): PinPlace | null {
    const picked = this.picked();
    if (picked) return picked;
    const words = (document.activeElement as HTMLElement | null)?.dataset['place'];
    return words ? (this.rowOf(words)?.place ?? null) : null;
  }

  protected takeOff(): void {
    const place = this.inHand();
    if (!place) return;
    this.picked.set(null);
    this.changed.emit(takeOffContact(this.design(), place));
  }

  /** Up and down go through a side, left and right to the other one. */
  protected steer(event: KeyboardEvent, { words }: BenchRow): void {
    const { left, right } = this.sides();
    const of = (ends: readonly BenchEnd[]): BenchRow[] => ends.flatMap(({ rows }) => rows);
    const [lefts, rights] = [of(left), of(right)];
    const own = lefts.some((row) => row.words === words) ? lefts : rights;
    const n = own.findIndex((row) => row.words === words);
    const to = {
      ArrowDown: own[n + 1],
      ArrowUp: own[n - 1],
      ArrowRight: own === lefts ? rights[Math.min(n, rights.length - 1)] : undefined,
      ArrowLeft: own === rights ? lefts[Math.min(n, lefts.length - 1)] : undefined,
    }[event.key];
    if (!to) return;
    event.preventDefault();
    this.host.nativeElement.querySelector<HTMLElement>(`[data-place="${to.words}"]`)?.focus();
  }

  protected startDrag(event: PointerEvent, place: PinPlace): void {
    if (!this.editable() || event.button !== 0 || event.pointerType === 'touch') return;
    const from = { x: event.clientX, y: event.clientY };
    const middle = this.host.nativeElement.querySelector('.middle')?.getBoundingClientRect();
    if (!middle) return;
    const before = this.picked();
    const move = (moved: PointerEvent): void => {
      if (Math.hypot(moved.clientX - from.x, moved.clientY - from.y) < 6) return;
      this.picked.set(place);
      this.dragged.set({
        x: ((moved.clientX - middle.left) / middle.width) * SPAN,
        y: moved.clientY - middle.top,
      });
    };
    const end = (ended: PointerEvent): void => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
      if (!this.dragged()) return;
      this.dragged.set(null);
      const under = document.elementFromPoint(ended.clientX, ended.clientY);
      const words = under?.closest<HTMLElement>('[data-place]')?.dataset['place'];
      const row = words ? this.rowOf(words) : undefined;
      if (row && row.words !== placeWords(place)) {
        this.picked.set(place);
        this.pick(row.place);
      } else this.picked.set(before);
      // The click that may follow a drag picks nothing.
      this.justDragged = true;
      setTimeout(() => (this.justDragged = false));
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
  }

  protected contactsIn(places: Iterable<string>, end: string): string[] {
    return [...places].flatMap((words) => (words.startsWith(`${end} `) ? [words.slice(end.length + 1)] : []));
  }

  protected litAt(end: string): string[] {
    const picked = this.picked();
    return this.contactsIn([...this.shown(), ...(picked ? [placeWords(picked)] : [])], end);
  }

  protected knownAt({ pins }: AdapterEnd): string[] {
    return pins.map(({ contact }) => contact);
  }

  protected wiredAt({ id, pins }: AdapterEnd): Record<string, string> {
    return Object.fromEntries(
      pins.flatMap(({ contact }): [string, string][] => {
        const conductor = this.conductorOf({ end: id, contact });
        return conductor ? [[contact, conductor]] : [];
      }),
    );
  }

  /** Insulation of the wire on a contact that is joined; empty where none is chosen. */
  private conductorOf(place: PinPlace): string {
    const rows = this.worked()?.rows ?? [];
    const placed = rows.flatMap(({ net }) => net.pins).find((pin) => placeWords(pin) === placeWords(place));
    return placed ? (colourOn(this.design(), rows, placed) ?? '') : '';
  }

  private rowOf(words: string): BenchRow | undefined {
    return this.drawnEnds()
      .flatMap(({ rows }) => rows)
      .find((row) => row.words === words);
  }
}

function drawn({ layout }: AdapterEnd): ContactLayout | null {
  try {
    return layoutFor(layout ?? null);
  } catch {
    // A description that is not finished draws nothing.
    return null;
  }
}
