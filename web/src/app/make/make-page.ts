import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { FunctionTrial, LooseEnd, NewBuild, NewLooseEnd } from '@near-spoke/contracts';
import {
  assign,
  cablesInHand,
  endAsLead,
  fittingOn,
  followsScheme,
  readBack,
  USUAL_CHOICES,
  workUp,
  type CableGroup,
  type CableType,
  type Choices,
  type ConnectorType,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { concatMap, from, last, tap } from 'rxjs';
import { ProveRoom } from '../adapters/prove-room';
import { Api } from '../api/api';
import { BenchKinds } from '../bench/bench-kinds';
import { CableSection } from '../drawing/cable-section';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys, type KeyAction } from '../keys/keys';
import { Preferences } from '../preferences/preferences';
import { sessionFeature } from '../session/session.state';
import { EndCard, type EndRecord } from '../terminate/end-card';
import { Asking } from '../ui/asking';
import type { Sight } from '../colours/colour-check';
import { ConnectorPicture } from './connector-picture';
import { EndPhotos, type TakenPhoto } from './end-photos';
import { FunctionTest } from './function-test';
import { LooseBook } from './loose-book';
import { madeLately, makeAgain, type Made } from './made-lately';

/** So many cords has a batch at most. */
const MOST_CORDS = 10_000;

/** Keys of the tiles, in their order; letters that mean something elsewhere are left out. */
const TILE_KEYS = [...'1234567890abcdeghijnpqrsuvyz'];

interface Tile {
  key: string | null;
  name: string;
  /** What is drawn on it. */
  cable: CableType;
  connector: ConnectorType | null;
  unsure: boolean;
  go: Record<string, string | null>;
}

/** One end without a job: what is in the hand, what fits on it, its card, its proof, and a line in the book. */
@Component({
  selector: 'ns-make-page',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    BenchKinds,
    CableSection,
    ConnectorPicture,
    EndCard,
    EndPhotos,
    FunctionTest,
    LooseBook,
    ProblemNote,
    ProveRoom,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './make-page.html',
  styleUrl: './make-page.scss',
})
export class MakePage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  protected readonly preferences = inject(Preferences);
  /** From the address: a group of cables, a cable, a connector. */
  readonly group = input<string>();
  readonly cable = input<string>();
  readonly connector = input<string>();
  /** From a batch of cords: what they are called, how many there are, and which of their two sides get this connector. */
  readonly batch = input<string>();
  readonly count = input<string>();
  readonly sides = input<string>();

  protected readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  protected readonly mayWork = this.store.selectSignal(sessionFeature.selectMayWork);
  protected readonly asking = new Asking();
  protected readonly book = signal<readonly LooseEnd[] | null>(null);
  private readonly lately = signal<readonly Made[]>(madeLately());

  private readonly groups = computed((): CableGroup[] => cablesInHand(this.kit()?.cables ?? []));
  private readonly inGroup = computed(() => this.groups().find(({ id }) => id === this.group()) ?? null);
  protected readonly theCable = computed(
    () => this.kit()?.cables.find(({ id }) => id === this.cable()) ?? null,
  );
  protected readonly theConnector = computed(
    () => this.kit()?.connectors.find(({ id }) => id === this.connector()) ?? null,
  );
  protected readonly asks = computed(() =>
    this.theCable() ? 'What goes on it?' : this.inGroup() ? 'Which of these?' : 'What is in your hand?',
  );
  /** The choice that stands open. */
  protected readonly tiles = computed((): Tile[] => {
    const [cable, group, kit] = [this.theCable(), this.inGroup(), this.kit()];
    const keyed = (tiles: Omit<Tile, 'key'>[]): Tile[] =>
      tiles.map((tile, n) => ({ ...tile, key: TILE_KEYS[n] ?? null }));
    if (cable)
      return keyed(
        fittingOn(cable, kit?.connectors ?? []).map(({ connector, sure }) => ({
          name: connector.name,
          cable,
          connector,
          unsure: !sure,
          go: { cable: cable.id, connector: connector.id },
        })),
      );
    if (group)
      return keyed(
        group.cables.map((each) => ({
          name: each.name,
          cable: each,
          connector: null,
          unsure: false,
          go: { group: group.id, cable: each.id },
        })),
      );
    return keyed(
      this.groups().flatMap(({ id, name, cables: [first] }) =>
        first ? [{ name, cable: first, connector: null, unsure: false, go: { group: id } }] : [],
      ),
    );
  });
  /** What was made lately, on the keys behind those of the groups. */
  protected readonly again = computed((): Tile[] => {
    if (this.group() || this.cable()) return [];
    const letters = TILE_KEYS.slice(10);
    return this.lately().flatMap((made, n): Tile[] => {
      const cable = this.kit()?.cables.find(({ id }) => id === made.cable);
      const connector = this.kit()?.connectors.find(({ id }) => id === made.connector);
      if (!cable || !connector) return [];
      return [
        {
          key: letters[n] ?? null,
          name: `${connector.name} on ${cable.name}`,
          cable,
          connector,
          unsure: false,
          go: { ...made },
        },
      ];
    });
  });

  /** Where a scheme is followed: as the last time. */
  protected readonly scheme = signal<'T568A' | 'T568B'>(
    localStorage.getItem(SCHEME) === 'T568A' ? 'T568A' : 'T568B',
  );
  protected readonly schemed = computed(() => {
    const connector = this.theConnector();
    return connector !== null && followsScheme(connector);
  });
  /** What was chosen on the card where schools differ. */
  protected readonly choices = linkedSignal({
    source: () => `${this.cable()} ${this.connector()}`,
    computation: (): Partial<Choices> => ({}),
  });
  private readonly chosen = computed((): Choices => ({
    ...USUAL_CHOICES,
    ...this.choices(),
    scheme: this.scheme(),
  }));
  protected readonly lead = computed(() => {
    const [cable, connector] = [this.theCable(), this.theConnector()];
    const design = cable && connector && endAsLead(cable, connector, this.chosen());
    return design ? { design, worked: workUp(design) } : null;
  });
  protected readonly proving = linkedSignal({ source: this.connector, computation: () => false });
  /** Which end this is, and how its contacts are laid: what was found of another is not of it. */
  private readonly inHand = computed(
    () => `${this.cable()} ${this.connector()} ${JSON.stringify(this.chosen())}`,
  );
  /** The proof of the end in hand, for its line in the book. */
  protected readonly proof = linkedSignal({
    source: this.inHand,
    computation: (): NewBuild['touched'] | null => null,
  });
  /** What was seen on its contacts. */
  protected readonly seen = linkedSignal({
    source: this.inHand,
    computation: (): Sight | null => null,
  });
  protected readonly asFound = computed(() => {
    const [cable, connector, seen] = [this.theCable(), this.theConnector(), this.seen()];
    return cable && connector && seen && readBack(assign(cable, connector, this.chosen()), seen);
  });
  protected readonly functionTest = linkedSignal({
    source: () => `${this.cable()} ${this.connector()}`,
    computation: (): readonly FunctionTrial[] => [],
  });
  /** What the last one of this kind had to do. */
  protected readonly hadToDo = computed(
    () =>
      this.book()
        ?.find(
          (end) =>
            end.cableTypeId === this.cable() &&
            end.connectorTypeId === this.connector() &&
            end.functionTest.length > 0,
        )
        ?.functionTest.map(({ what }) => what) ?? [],
  );
  /** Photos of the end in hand; they go after its line is in the book. */
  protected readonly photos = linkedSignal({
    source: () => `${this.cable()} ${this.connector()}`,
    computation: (): readonly TakenPhoto[] => [],
  });
  /** Something more than the usual is kept, or was with the last one of this kind. */
  protected readonly hasMore = computed(
    () => this.functionTest().length + this.photos().length + this.hadToDo().length > 0,
  );
  /** Photos of an end in the book that the server does not have yet. */
  protected readonly unsent = signal<{ endId: string; photos: readonly TakenPhoto[] } | null>(null);
  /** The ends of a batch, by their names, and how many of them are in the book. */
  protected readonly ofBatch = computed(() => {
    const [batch, count] = [this.batch(), Number(this.count())];
    if (!batch || !Number.isInteger(count) || count < 1 || count > MOST_CORDS) return null;
    const sides = [...(this.sides() === 'A' || this.sides() === 'B' ? (this.sides() ?? '') : 'AB')];
    const names = Array.from({ length: count }, (_, n) =>
      sides.map((side) => `${batch} ${n + 1} ${side}`),
    ).flat();
    const made = new Set(
      (this.book() ?? []).flatMap(({ name, outcome }) => (outcome === 'good' ? [name] : [])),
    );
    const open = names.filter((name) => !made.has(name));
    return { all: names.length, done: names.length - open.length, next: open[0] ?? null };
  });
  protected readonly name = linkedSignal(() => this.ofBatch()?.next ?? '');
  /** The line that was kept last. */
  protected readonly kept = linkedSignal({
    source: () => `${this.cable()} ${this.connector()}`,
    computation: (): LooseEnd | null => null,
  });
  private readonly card = viewChild(EndCard);
  private id = crypto.randomUUID();

  constructor() {
    const header = inject(Header);
    header.show([{ name: 'Bench', link: '/bench' }, { name: 'Make one' }]);
    if (!untracked(this.kit)) this.store.dispatch(JobEvents.kitNeeded());
    this.asking.ask(this.api.call('listLooseEnds', {}), (book) => this.book.set(book));
    effect(() => {
      const [cable, connector] = [this.theCable(), this.theConnector()];
      if (!cable || !connector) return;
      makeAgain({ cable: cable.id, connector: connector.id });
      untracked(() => this.lately.set(madeLately()));
    });
    const choose = (key: string): KeyAction => {
      const tile = (): Tile | undefined =>
        this.theConnector() ? undefined : [...this.tiles(), ...this.again()].find((each) => each.key === key);
      return {
        key,
        words: '',
        run: () => {
          const chosen = tile();
          if (chosen) void this.go(chosen.go);
        },
        when: () => tile() !== undefined,
      };
    };
    inject(Keys).use(
      [
        ...TILE_KEYS.map(choose),
        {
          key: 'Backspace',
          words: 'back to the choice before',
          run: () => history.back(),
          when: () => Boolean(this.group() ?? this.cable()) && !this.proving(),
        },
        {
          key: 'p',
          words: 'prove this end with two probes',
          run: () => this.proving.set(true),
          when: () => this.lead() !== null && !this.proving(),
        },
      ],
      inject(DestroyRef),
    );
  }

  protected go(to: Tile['go']): Promise<boolean> {
    return this.router.navigate(['/bench/make'], { queryParams: to });
  }

  protected turnScheme(): void {
    this.scheme.update((scheme) => (scheme === 'T568A' ? 'T568B' : 'T568A'));
    localStorage.setItem(SCHEME, this.scheme());
  }

  /** A proof is taken for the line in the book; the card goes on where it was. */
  protected readonly takeProof = (build: NewBuild): Promise<boolean> => {
    this.proof.set(build.touched ?? null);
    if (build.name) this.name.set(build.name);
    this.proving.set(false);
    return Promise.resolve(true);
  };

  protected record(end: EndRecord): void {
    const [cable, connector] = [this.theCable(), this.theConnector()];
    if (!cable || !connector) return;
    const body = {
      id: this.id,
      name: this.name().trim(),
      cableTypeId: cable.id,
      connectorTypeId: connector.id,
      scheme: this.scheme(),
      schools: { ringingWire: this.chosen().ringingWire, flatEnd: this.chosen().flatEnd },
      ...end,
      touched: this.proof()?.map((touch) => ({ ...touch })) ?? null,
      functionTest: this.functionTest().map((line) => ({ ...line })),
      seen: asSent(this.seen()),
    };
    this.asking.ask(this.api.call('addLooseEnd', { body }), (book) => {
      this.book.set(book);
      this.kept.set(book.find(({ id }) => id === body.id) ?? null);
      if (this.photos().length > 0) this.unsent.set({ endId: body.id, photos: this.photos() });
      this.id = crypto.randomUUID();
      this.proof.set(null);
      this.seen.set(null);
      this.functionTest.set([]);
      this.photos.set([]);
      this.name.set(this.ofBatch()?.next ?? '');
      this.card()?.again();
      this.sendPhotos();
    });
  }

  /** Photos go one by one; what was not answered stays, under its id. */
  protected sendPhotos(): void {
    const waiting = this.unsent();
    if (!waiting) return;
    const { endId } = waiting;
    const sending = from(waiting.photos).pipe(
      concatMap(({ id, jpeg }) =>
        this.api
          .call('addLoosePhoto', { params: { endId }, body: { id, jpeg } })
          .pipe(tap((book) => this.photoKept(id, book))),
      ),
      last(),
    );
    this.asking.ask(sending, (book) => this.book.set(book));
  }

  private photoKept(id: string, book: LooseEnd[]): void {
    this.book.set(book);
    this.unsent.update((waiting) => {
      const photos = waiting?.photos.filter((photo) => photo.id !== id) ?? [];
      return waiting && photos.length > 0 ? { ...waiting, photos } : null;
    });
  }
}

/** What was seen as it is sent: lists of its own. */
const asSent = (seen: Sight | null): NewLooseEnd['seen'] =>
  seen && { colours: { ...seen.colours }, ...(seen.empty ? { empty: [...seen.empty] } : {}) };

/** Where this device remembers the scheme. */
const SCHEME = 'scheme of loose ends';
