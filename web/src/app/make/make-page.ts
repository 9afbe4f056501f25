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
import { Router } from '@angular/router';
import type { LooseEnd, NewBuild } from '@near-spoke/contracts';
import {
  cablesInHand,
  endAsLead,
  fittingOn,
  followsScheme,
  workUp,
  type CableGroup,
  type CableType,
  type ConnectorType,
} from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { ProveRoom } from '../adapters/prove-room';
import { Api } from '../api/api';
import { BenchKinds } from '../bench/bench-kinds';
import { CableSection } from '../drawing/cable-section';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { Keys, type KeyAction } from '../keys/keys';
import { sessionFeature } from '../session/session.state';
import { EndCard, type EndRecord } from '../terminate/end-card';
import { Asking } from '../ui/asking';
import { ConnectorPicture } from './connector-picture';
import { LooseBook } from './loose-book';
import { madeLately, makeAgain, type Made } from './made-lately';

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
    LooseBook,
    ProblemNote,
    ProveRoom,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './make-page.html',
  styleUrl: './make-page.scss',
})
export class MakePage {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  /** From the address: a group of cables, a cable, a connector. */
  readonly group = input<string>();
  readonly cable = input<string>();
  readonly connector = input<string>();

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
  protected readonly lead = computed(() => {
    const [cable, connector] = [this.theCable(), this.theConnector()];
    const design = cable && connector && endAsLead(cable, connector, this.scheme());
    return design ? { design, worked: workUp(design) } : null;
  });
  protected readonly proving = linkedSignal({ source: this.connector, computation: () => false });
  /** The proof of the end in hand, for its line in the book. */
  protected readonly proof = linkedSignal({
    source: () => `${this.cable()} ${this.connector()} ${this.scheme()}`,
    computation: (): NewBuild['touched'] | null => null,
  });
  protected readonly name = signal('');
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
      ...end,
      touched: this.proof()?.map((touch) => ({ ...touch })) ?? null,
    };
    this.asking.ask(this.api.call('addLooseEnd', { body }), (book) => {
      this.book.set(book);
      this.kept.set(book.find(({ id }) => id === this.id) ?? null);
      this.id = crypto.randomUUID();
      this.proof.set(null);
      this.name.set('');
      this.card()?.again();
    });
  }
}

/** Where this device remembers the scheme. */
const SCHEME = 'scheme of loose ends';
