import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  signal,
} from '@angular/core';
import type { LinkDetail } from '@near-spoke/contracts';
import {
  conductorCode,
  cableLengthFromM,
  cableLengthUnit,
  endDone,
  formatCableLength,
  type EndPicture,
  type LinkEnd,
  type LinkPicture,
} from '@near-spoke/core';
import { scaleLinear } from 'd3-scale';
import { Wire } from './wire';

const NEAR_X = 142;
/** Drawn one to one, between a tablet's width and a desktop's. */
const WIDEST = 1232;
const NARROWEST = 720;
const ZONE = 92;
const TOP = 56;

interface DrawnLine {
  d: string;
  conductor: string;
  doubtful: boolean;
}

/**
 * The strip: a link lying down, near end left, far end right, conductors in their colours, length
 * to scale. A crossing of unknown place is drawn at both ends with the belief in each, never at
 * an invented distance.
 */
@Component({
  selector: 'ns-link-strip',
  imports: [Wire],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './link-strip.html',
  styleUrl: './link-strip.scss',
})
export class LinkStrip {
  readonly detail = input.required<LinkDetail>();
  readonly picture = input.required<LinkPicture>();
  readonly cableName = input('');
  readonly nearName = input('');
  readonly farName = input('');
  /** A located event and the half width of its 95 % interval, metres from the near end. */
  readonly located = input<{ atM: number; u95M: number } | null>(null);
  /** Lower rows, for rooms that need the height themselves. */
  readonly compact = input(false);

  protected readonly nearX = NEAR_X;
  private readonly hostWidth = signal(WIDEST);
  protected readonly width = computed(() => Math.min(WIDEST, Math.max(NARROWEST, this.hostWidth())));
  protected readonly farX = computed(() => this.width() - NEAR_X);
  protected readonly middle = computed(() => this.width() / 2);
  protected readonly code = conductorCode;
  protected readonly pitch = computed(() => (this.compact() ? 15 : this.picture().rows.length > 8 ? 23 : 25));
  protected readonly rows = computed(() =>
    this.picture().rows.map((row, index) => ({
      ...row,
      y: TOP + (this.compact() ? 14 : 18) + index * this.pitch(),
    })),
  );
  protected readonly boxHeight = computed(() => this.rows().length * this.pitch() + 12);
  protected readonly routeY = computed(() => TOP + this.boxHeight() + 12);
  protected readonly height = computed(() => this.routeY() + (this.compact() ? 44 : 58));
  private readonly xAt = computed(() =>
    scaleLinear().domain([0, this.detail().link.lengthM]).range([NEAR_X, this.farX()]),
  );

  protected readonly done = computed(() => ({
    near: endDone(this.detail(), 'near'),
    far: endDone(this.detail(), 'far'),
  }));
  protected readonly heading = computed(() => {
    const { link, scheme, units } = this.detail();
    const balanced = this.picture().rows.some((row) => row.contact === '8');
    return [balanced ? `${scheme} both ends` : '', this.cableName(), formatCableLength(link.lengthM, units)]
      .filter(Boolean)
      .join(', ');
  });

  protected readonly route = computed(() => {
    const { route, lengthM } = this.detail().link;
    const x = this.xAt();
    let from = 0;
    return route.map((stretch) => {
      const start = x(Math.min(from, lengthM));
      from += stretch.lengthM;
      const end = x(Math.min(from, lengthM));
      const at = [...this.places().map((place) => place.atM), this.located()?.atM ?? -1];
      const hit = at.some((atM) => atM > from - stretch.lengthM && atM <= from);
      return { name: stretch.name, x: start, width: Math.max(0, end - start - 2), hit };
    });
  });

  /** The located event's interval across the whole strip. */
  protected readonly band = computed(() => {
    const located = this.located();
    const x = this.xAt();
    if (!located) return null;
    const [from, to] = [x(located.atM - located.u95M), x(located.atM + located.u95M)];
    return { x: x(located.atM), from, width: Math.max(2, to - from) };
  });

  protected readonly ticks = computed(() => {
    const { units, link } = this.detail();
    const longest = cableLengthFromM(link.lengthM, units);
    const axis = scaleLinear().domain([0, longest]).range([NEAR_X, this.farX()]);
    const values = axis.ticks(7);
    return values.map((value, i) => ({
      x: axis(value),
      name: i === values.length - 1 ? `${value} ${cableLengthUnit(units)}` : String(value),
    }));
  });

  /** Known places of trouble along the cable. */
  protected readonly places = computed(() => {
    const { cable } = this.picture();
    const { units } = this.detail();
    const x = this.xAt();
    const named = [
      ...cable.breaks.map((b) => ({ atM: b.atM, words: 'broken' })),
      ...cable.joins.map((j) => ({ atM: j.atM, words: 'joined' })),
      ...cable.disturbances.map((d) => ({ atM: d.atM, words: 'wet or crushed' })),
    ];
    const known = named.flatMap((p) =>
      p.atM === null
        ? []
        : [{ ...p, atM: p.atM, x: x(p.atM), words: `${p.words}, ${formatCableLength(p.atM, units)}` }],
    );
    return known.filter((p, i) => known.findIndex((q) => q.atM === p.atM && q.words === p.words) === i);
  });

  protected readonly bodies = computed(() => {
    const { near, far, cable } = this.picture();
    const x = this.xAt();
    return this.rows().map((row) => {
      const left = this.bareEnd('near') ? NEAR_X + 46 : this.startsInZone(near, row) ? NEAR_X + ZONE : NEAR_X;
      const right = this.bareEnd('far')
        ? this.farX() - 46
        : this.startsInZone(far, row)
          ? this.farX() - ZONE
          : this.farX();
      const cuts = cable.breaks
        .filter((b) => b.conductor === row.conductor && b.atM !== null)
        .map((b) => x(b.atM as number));
      const stops = [left, ...cuts.flatMap((cut) => [cut - 6, cut + 6]), right];
      const d = stops.reduce(
        (path, stop, i) => path + `${i % 2 === 0 ? 'M' : 'H'}${stop}${i % 2 === 0 ? ` ${row.y}` : ''}`,
        '',
      );
      return { ...row, d };
    });
  });

  protected readonly nearLines = computed(() => this.endLines('near'));
  protected readonly farLines = computed(() => this.endLines('far'));

  protected readonly summary = computed(() => {
    const { link, diagnosis } = this.detail();
    const verdict = diagnosis ? `Verdict: ${diagnosis.headline}.` : 'Not tested yet.';
    const places = this.places()
      .map((p) => p.words)
      .join(', ');
    return `Link ${link.label} from ${link.near.hub} ${link.near.panel} port ${link.near.port} to ${link.far.outlet}, ${this.heading()}. ${verdict} ${places}`;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const observer = new ResizeObserver(([entry]) =>
      this.hostWidth.set(Math.round(entry?.contentRect.width || WIDEST)),
    );
    observer.observe(host);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  protected end(side: LinkEnd): EndPicture {
    return this.picture()[side];
  }

  protected bareEnd(side: LinkEnd): boolean {
    return !this.done()[side];
  }

  /** What a contact's label says: the colour seen, the colour meant, or that it is in doubt. */
  protected contactText(side: LinkEnd, row: { contact: string; conductor: string }): string {
    const end = this.end(side);
    if (end.seen && row.contact in end.seen) return conductorCode(end.seen[row.contact] ?? null);
    return end.doubtful.has(row.contact) ? '?' : conductorCode(row.conductor);
  }

  /** On the strip the face beside the name already says how many contacts there are. */
  protected shortName(name: string): string {
    return name.replace('8-contact ', '');
  }

  /** Clear of the connector's name, and above the crossing where that is short. */
  protected pillX(side: LinkEnd): number {
    const name = this.shortName(side === 'near' ? this.nearName() : this.farName());
    const clear = 24 + name.length * 6.8 + 44;
    return side === 'near' ? Math.max(NEAR_X + 46, clear) : Math.min(this.farX() - 46, this.width() - clear);
  }

  protected percent(belief: number): string {
    return `${Math.round(belief * 100)} %`;
  }

  private startsInZone(end: EndPicture, row: { contact: string; conductor: string }): boolean {
    const line = end.lines.find((l) => l.conductor === row.conductor);
    return !line || end.doubtful.has(line.contact) || end.doubtful.has(row.contact);
  }

  private endLines(side: LinkEnd): DrawnLine[] {
    const end = this.end(side);
    if (this.bareEnd(side)) return [];
    const [edge, inner] = side === 'near' ? [NEAR_X, NEAR_X + ZONE] : [this.farX(), this.farX() - ZONE];
    const yOf = (by: 'contact' | 'conductor', value: string): number =>
      this.rows().find((row) => row[by] === value)?.y ?? 0;
    return end.lines.flatMap((line) => {
      const row = this.rows().find((r) => r.conductor === line.conductor);
      if (!row || !this.startsInZone(end, row)) return [];
      const [from, to] = [yOf('contact', line.contact), row.y];
      const half = (edge + inner) / 2;
      // A conductor that lies on its contact without touching it stops short.
      const start = line.seated ? edge : edge + (side === 'near' ? 16 : -16);
      return [
        {
          d: `M${start} ${from}C${half} ${from} ${half} ${to} ${inner} ${to}`,
          conductor: line.conductor,
          doubtful: !end.sure,
        },
      ];
    });
  }
}
