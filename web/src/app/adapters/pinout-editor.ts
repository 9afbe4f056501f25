import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import {
  kindOfSignal,
  knownA,
  layoutFor,
  LEVEL_FAMILIES,
  plainPin,
  typedNumber,
  voltsFrom,
  type AdapterEnd,
  type ContactLayout,
  type LevelFigures,
  type OwnLayout,
  type Pin,
  type PinKind,
} from '@near-spoke/core';
import { ConnectorFace } from '../drawing/connector-face';
import { Keys } from '../keys/keys';
import { LAYOUT_GROUPS } from './layout-choices';
import { MeasureLine, type LineMeasured } from './measure-line';
import { MeterColours, type MeteredWire } from './meter-colours';
import { OwnConnector } from './own-connector';
import { OwnLevels } from './own-levels';
import { PastePinout } from './paste-pinout';
import { PinoutAsDrawn } from './pinout-as-drawn';
import { EndRoom, type RoomTold } from './end-room';
import { AdapterBench } from './adapter-bench';
import { SHEET_FACES } from './sheet-faces';
import { SaveTable } from '../ui/save-table';

/** A pin while it is typed: what it does may not be said yet, figures are text. */
export interface PinDraft {
  pin: Pin;
  kind: PinKind | '';
  volts: string;
  currentA: string;
}

const KIND_NAMES: readonly (readonly [PinKind, string])[] = [
  ['input', 'input'],
  ['output', 'output'],
  ['both', 'both ways'],
  ['open-collector', 'open collector'],
  ['supply-out', 'gives supply'],
  ['supply-in', 'takes supply'],
  ['ground', 'ground'],
  ['audio', 'audio'],
  ['video', 'video'],
  ['shield', 'shield'],
  ['not-connected', 'not connected'],
  ['reserved', 'reserved'],
];
const WAYS = [
  ['table', 'Table'],
  ['paste', 'Paste'],
  ['drawn', 'As the sheet draws it'],
  ['meter', 'Meter the colours'],
  ['own', 'Own connector'],
  ['room', 'Room and how it lies'],
] as const;
type Way = (typeof WAYS)[number][0];

export const draftOf = (pin: Pin): PinDraft => ({
  pin,
  kind: pin.kind,
  volts: pin.volts ? [...new Set(pin.volts)].join(' to ') : '',
  currentA: knownA(pin) === null ? '' : String(pin.currentA),
});
const hasLevels = (kind: PinKind | ''): boolean =>
  kind === 'input' || kind === 'output' || kind === 'both' || kind === 'open-collector';
const isSupply = (kind: PinKind | ''): boolean => kind === 'supply-in' || kind === 'supply-out';

/** One end's connector and pinout: typed, pasted, put on its places from a drawing, or metered. */
@Component({
  selector: 'ns-pinout-editor',
  imports: [
    MatButtonModule,
    ConnectorFace,
    EndRoom,
    MeasureLine,
    MeterColours,
    OwnConnector,
    OwnLevels,
    PastePinout,
    PinoutAsDrawn,
    SaveTable,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pinout-editor.html',
  styleUrl: './pinout-editor.scss',
})
export class PinoutEditor {
  protected readonly bench = inject(AdapterBench);
  readonly end = input.required<AdapterEnd>();
  readonly taken = output<AdapterEnd>();
  readonly left = output();
  /** Whether the end may go altogether: two have to stay. */
  readonly mayDrop = input(false);
  readonly dropped = output();

  protected readonly groups = LAYOUT_GROUPS;
  protected readonly kinds = KIND_NAMES;
  protected readonly families = LEVEL_FAMILIES;
  protected readonly ways = WAYS;
  protected readonly sheetFaces = SHEET_FACES;
  protected readonly way = signal<Way>('table');
  protected readonly hasLevels = hasLevels;
  protected readonly isSupply = isSupply;

  protected readonly head = linkedSignal(() => this.end());
  protected readonly rows = linkedSignal<readonly PinDraft[]>(() => this.end().pins.map(draftOf));
  protected readonly open = signal<string | null>(null);
  /** The contact whose own figures are being typed. */
  protected readonly ownLevels = signal<string | null>(null);
  protected readonly bears = linkedSignal(() => String(this.end().contactBearsA));
  protected readonly layout = computed((): ContactLayout | null => {
    try {
      return layoutFor(this.head().layout ?? null);
    } catch {
      return null;
    }
  });
  protected readonly layoutId = computed(() => {
    const { layout = null } = this.head();
    return layout === null ? '' : typeof layout === 'string' ? layout : 'own';
  });
  protected readonly missing = computed(() => {
    const there = new Set(this.rows().map(({ pin }) => pin.contact));
    return (this.layout()?.places ?? []).map(({ contact }) => contact).filter((each) => !there.has(each));
  });
  protected readonly known = computed(() => this.rows().map(({ pin }) => pin.contact));
  protected readonly wired = computed(() =>
    Object.fromEntries(
      this.rows().flatMap(({ pin }): [string, string][] => (pin.colour ? [[pin.contact, pin.colour]] : [])),
    ),
  );
  /** What is wrong with the rows as they are; the first is shown. */
  protected readonly wrong = computed((): string => {
    const rows = this.rows().filter(said);
    const dumb = rows.filter(({ kind }) => kind === '');
    if (dumb.length > 0) return `Say what ${list(dumb)} ${dumb.length > 1 ? 'do' : 'does'}.`;
    const nameless = rows.filter(({ pin }) => pin.signal.trim() === '');
    if (nameless.length > 0) return `Name the signal of ${list(nameless)}.`;
    const voltless = rows.filter(
      ({ kind, volts }) => isSupply(kind) && volts.trim() !== '' && voltsFrom(volts) === null,
    );
    if (voltless.length > 0) return `The volts of ${list(voltless)} are none: write 5, or 4.5 to 5.5.`;
    const currents = rows.filter(({ currentA }) => currentA !== '' && !(typedNumber(currentA) >= 0));
    if (currents.length > 0) return `The current of ${list(currents)} is no number of amperes.`;
    if (!(typedNumber(this.bears()) > 0)) return 'Say how many amperes one contact bears.';
    return rows.length === 0 ? 'Enter at least one contact.' : '';
  });

  /** Something was typed that is not taken. */
  private readonly dirty = computed(
    () =>
      this.head() !== this.end() ||
      JSON.stringify(this.rows()) !== JSON.stringify(this.end().pins.map(draftOf)),
  );
  protected readonly warned = signal(false);

  constructor() {
    // Connectors that others described are offered too.
    if (!this.bench.listed()) void this.bench.load();
    inject(Keys).use(
      [{ key: 'Escape', words: 'leave the pinout', run: () => this.leave() }],
      inject(DestroyRef),
    );
  }

  /** Leaves, but not at once where something would be lost. */
  protected leave(): void {
    if (this.dirty() && !this.warned()) this.warned.set(true);
    else this.left.emit();
  }

  protected readonly ownLayout = computed((): OwnLayout | null => {
    const { layout = null } = this.head();
    return layout === null || typeof layout === 'string' ? null : layout;
  });

  protected contactsOf(layout: ContactLayout): string[] {
    return layout.places.map(({ contact }) => contact);
  }

  protected choose(id: string): void {
    const layout = id === '' ? null : id;
    if (id === 'own') {
      this.way.set('own');
      return;
    }
    const described = this.bench.ownLayouts().find(({ name: each }) => `own ${each}` === id);
    if (described) {
      this.addOwn(described);
      return;
    }
    const name = this.groups.flatMap(({ layouts }) => layouts).find((each) => each.id === id)?.name;
    this.head.update((head) => ({ ...head, layout, connector: name ?? head.connector }));
  }

  protected addOwn(own: OwnLayout): void {
    this.head.update((head) => ({ ...head, layout: own, connector: own.name }));
    this.way.set('table');
  }

  protected say(sheetFace: AdapterEnd['sheetFace']): void {
    this.head.update((head) => ({ ...head, sheetFace }));
  }

  protected named(name: string): void {
    this.head.update((head) => ({ ...head, name }));
  }

  protected set(contact: string, change: Partial<Pin> & Partial<Omit<PinDraft, 'pin'>>): void {
    const { kind, volts, currentA, ...pin } = change;
    this.rows.update((rows) =>
      rows.map((row) =>
        row.pin.contact === contact
          ? {
              pin: { ...row.pin, ...pin },
              kind: kind ?? row.kind,
              volts: volts ?? row.volts,
              currentA: currentA ?? row.currentA,
            }
          : row,
      ),
    );
  }

  /** Takes a field out that may be left out. */
  protected unset(contact: string, field: 'colour' | 'figures' | 'measured' | 'sheetSaid'): void {
    this.rows.update((rows) =>
      rows.map((row) => {
        if (row.pin.contact !== contact) return row;
        const { [field]: _, ...pin } = row.pin;
        return { ...row, pin };
      }),
    );
  }

  protected addRows(contacts: readonly string[]): void {
    this.rows.update((rows) =>
      sorted([
        ...rows,
        ...contacts.map((contact) => ({ ...draftOf(plainPin(contact, '', 'input')), kind: '' as const })),
      ]),
    );
  }

  protected addOne(contact: string): void {
    const name = contact.trim();
    if (/^[A-Za-z0-9+-]{1,6}$/.test(name) && !this.known().includes(name)) this.addRows([name]);
  }

  protected drop(contact: string): void {
    this.rows.update((rows) => rows.filter(({ pin }) => pin.contact !== contact));
  }

  /** Pins read from a table: each takes the place of what stood at its contact. */
  protected pasted(pins: readonly Pin[]): void {
    const fresh = new Set(pins.map(({ contact }) => contact));
    this.rows.update((rows) =>
      sorted([...rows.filter(({ pin }) => !fresh.has(pin.contact)), ...pins.map(draftOf)]),
    );
    this.way.set('table');
  }

  /** Signals put on their places: what a contact does stays where its signal was known before. */
  protected placed(signals: readonly { contact: string; signal: string }[]): void {
    this.rows.update((rows) => {
      const before = new Map(rows.map((row) => [row.pin.signal.toUpperCase(), row]));
      const moved = signals.map(({ contact, signal: name }): PinDraft => {
        const known = before.get(name.toUpperCase());
        return known
          ? { ...known, pin: { ...known.pin, contact } }
          : { ...draftOf(plainPin(contact, name, 'input')), kind: kindOfSignal(name) ?? '' };
      });
      const gone = new Set(
        signals.flatMap(({ contact, signal: name }) => [
          contact,
          before.get(name.toUpperCase())?.pin.contact ?? contact,
        ]),
      );
      return sorted([...rows.filter(({ pin }) => !gone.has(pin.contact)), ...moved]);
    });
    this.way.set('table');
  }

  protected metered(wires: readonly MeteredWire[]): void {
    for (const { contact, colour } of wires) {
      if (!this.known().includes(contact)) this.addRows([contact]);
      if (colour) this.set(contact, { colour });
      else this.unset(contact, 'colour');
    }
    this.way.set('table');
  }

  protected measured(contact: string, { levels }: LineMeasured): void {
    this.set(contact, { measured: levels, source: 'metered' });
  }

  protected setLevels(contact: string, id: string): void {
    if (id === 'own') {
      this.open.set(contact);
      this.ownLevels.set(contact);
      return;
    }
    this.unset(contact, 'figures');
    this.set(contact, { levels: id === '' ? null : id });
  }

  protected figured(contact: string, figures: LevelFigures): void {
    this.set(contact, { figures, levels: null });
    this.ownLevels.set(null);
  }

  protected roomTold(told: RoomTold): void {
    this.head.update(({ body: _body, room: _room, ...head }) => ({ ...head, ...told }));
    this.way.set('table');
  }

  protected take(): void {
    if (this.wrong() !== '') return;
    const pins = this.rows()
      .filter(said)
      .map(({ pin, kind, volts, currentA }): Pin => {
        const does = kind === '' ? pin.kind : kind;
        return {
          ...pin,
          signal: pin.signal.trim(),
          kind: does,
          levels: hasLevels(does) ? pin.levels : null,
          volts: isSupply(does) ? voltsFrom(volts) : null,
          currentA: currentA === '' ? null : typedNumber(currentA),
        };
      });
    this.taken.emit({ ...this.head(), contactBearsA: typedNumber(this.bears()), pins });
  }
}

/** A row of which something is said; one that is bare is left out. */
const said = ({ pin, kind }: PinDraft): boolean => pin.signal.trim() !== '' || kind !== '';
const list = (rows: readonly PinDraft[]): string =>
  `${rows.length > 1 ? 'contacts' : 'contact'} ${rows.map(({ pin }) => pin.contact).join(', ')}`;
const sorted = (rows: readonly PinDraft[]): PinDraft[] =>
  rows.toSorted((a, b) => a.pin.contact.localeCompare(b.pin.contact, 'en', { numeric: true }));
