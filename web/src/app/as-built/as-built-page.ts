import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { MatSelectModule } from '@angular/material/select';
import { MatTabsModule } from '@angular/material/tabs';
import { MatTreeModule } from '@angular/material/tree';
import { Router, RouterLink } from '@angular/router';
import type { BuiltLink } from '@near-spoke/contracts';
import { formatCableLength, LINK_STAGES } from '@near-spoke/core';
import { placeAt, placeTree, placeWay, type PlaceNode } from '@near-spoke/core/as-built';
import { Store } from '@ngrx/store';
import { of } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { StageGlyph } from '../drawing/stage-glyph';
import { Header } from '../header';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { RouteBranches } from '../plan/route-branches';
import { SaveTable } from '../ui/save-table';

/** A building over all its jobs: its places as a tree, what ends where and by which way, and what was changed. */
@Component({
  selector: 'ns-as-built-page',
  imports: [
    DatePipe,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatProgressBarModule,
    MatSelectModule,
    MatTabsModule,
    MatTreeModule,
    ProblemNote,
    RouteBranches,
    SaveTable,
    StageGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './as-built-page.html',
  styleUrl: './as-built-page.scss',
})
export class AsBuiltPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  /** From the address. */
  readonly site = input<string>();
  /** The place that is looked at; nothing for the whole site. */
  protected readonly path = signal('');
  /** The stretch whose links are told. */
  protected readonly stretch = signal<string | null>(null);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);

  protected readonly all = rxResource({ stream: () => this.api.call('listSites', {}) });
  protected readonly sites = computed(() => (this.all.hasValue() ? this.all.value() : []));
  /** Where something was done last. */
  private readonly newest = computed(
    () => [...this.sites()].sort((a, b) => (b.at ?? '').localeCompare(a.at ?? ''))[0]?.site,
  );
  protected readonly chosen = computed(() => this.site() ?? this.newest() ?? null);
  protected readonly kept = rxResource({
    params: () => this.chosen(),
    stream: ({ params: site }) =>
      site === null ? of(null) : this.api.call('siteAsBuilt', { params: { site } }),
  });
  private readonly log = rxResource({
    params: () => this.chosen(),
    stream: ({ params: site }) =>
      site === null ? of([]) : this.api.call('siteActivity', { params: { site } }),
  });
  protected readonly built = computed(() => (this.kept.hasValue() ? this.kept.value() : null));
  protected readonly problem = computed(() => {
    const wrong = this.kept.error() ?? this.all.error() ?? this.log.error();
    return wrong ? problemOf(wrong) : null;
  });
  protected readonly tree = computed(() => placeTree(this.built()?.links ?? []));
  protected readonly childrenOf = (node: PlaceNode): PlaceNode[] => node.children;
  protected readonly hasChildren = (_: number, node: PlaceNode): boolean => node.children.length > 0;
  protected readonly pathOf = (_: number, node: PlaceNode): string => node.path;
  protected readonly place = computed(() => placeAt(this.tree(), this.path()));
  protected readonly way = computed(() => placeWay(this.tree(), this.path()));
  protected readonly here = computed((): BuiltLink[] => {
    const [links, place] = [this.built()?.links ?? [], this.place()];
    if (!place) return links;
    const ids = new Set(place.links);
    return links.filter(({ id }) => ids.has(id));
  });
  protected readonly counts = computed(() =>
    LINK_STAGES.map(({ id, name }) => ({
      id,
      name,
      count: this.here().filter(({ stage }) => stage === id).length,
    })).filter(({ count }) => count > 0),
  );
  /** The ways of what is here, from each hub. */
  protected readonly hubs = computed(() => {
    const units = this.built()?.jobs[0]?.units ?? 'metric';
    const byHub = new Map<string, BuiltLink[]>();
    for (const link of this.here())
      if (link.route.length > 0) byHub.set(link.near.hub, [...(byHub.get(link.near.hub) ?? []), link]);
    return [...byHub].map(([hub, links]) => ({ hub, links, units }));
  });
  protected readonly happened = computed(() => {
    const lines = this.log.hasValue() ? this.log.value() : [];
    if (!this.place()) return lines;
    const ids = new Set(this.here().map(({ id }) => id));
    return lines.filter(({ linkId }) => linkId !== null && ids.has(linkId));
  });

  constructor() {
    const header = inject(Header);
    this.store.dispatch(JobEvents.kitNeeded());
    effect(() => {
      const site = this.chosen();
      header.show([
        { name: 'Jobs', link: ['/jobs'] },
        { name: site === null ? 'As built' : `${site}, as built` },
      ]);
    });
  }

  protected choose(site: string): void {
    this.path.set('');
    void this.router.navigate(['/as-built', site]);
  }

  protected look(node: PlaceNode | null): void {
    this.path.set(node?.path ?? '');
    this.stretch.set(null);
  }

  protected through(links: readonly BuiltLink[]): BuiltLink[] {
    return links.filter(({ route }) => route.some(({ name }) => name === this.stretch()));
  }

  protected cable({ cableTypeId }: BuiltLink): string {
    return this.kit()?.cables.find(({ id }) => id === cableTypeId)?.name ?? cableTypeId;
  }

  protected connector(id: string): string {
    return this.kit()?.connectors.find((one) => one.id === id)?.name ?? id;
  }

  protected jobOf({ jobId }: BuiltLink): string {
    return this.built()?.jobs.find(({ id }) => id === jobId)?.title ?? '';
  }

  protected length({ jobId, lengthM }: BuiltLink): string {
    return formatCableLength(lengthM, this.built()?.jobs.find(({ id }) => id === jobId)?.units ?? 'metric');
  }

  protected routeOf({ route }: BuiltLink): string {
    return route.map(({ name }) => name).join(', ');
  }
}
