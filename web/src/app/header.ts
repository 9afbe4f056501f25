import { Injectable, signal } from '@angular/core';

export interface Crumb {
  name: string;
  /** Absent on the last. */
  link?: string | string[];
}

/** A stop on the line of stages in the header. */
export interface Station {
  name: string;
  link: string[];
  query?: Record<string, string>;
  reached: boolean;
  here: boolean;
}

/** What the frame shows about the page inside it; each page sets it. */
@Injectable({ providedIn: 'root' })
export class Header {
  readonly crumbs = signal<readonly Crumb[]>([]);
  readonly stations = signal<readonly Station[]>([]);

  show(crumbs: readonly Crumb[], stations: readonly Station[] = []): void {
    this.crumbs.set(crumbs);
    this.stations.set(stations);
  }
}
