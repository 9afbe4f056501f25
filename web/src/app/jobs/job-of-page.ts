import { computed, effect, inject, untracked, type Signal } from '@angular/core';
import type { Job, Link } from '@near-spoke/contracts';
import { Store } from '@ngrx/store';
import { Header } from '../header';
import { jobStations } from './job-stations';
import { JobEvents, jobsFeature } from './jobs.state';

/** The job that a page is of. */
export interface JobOfPage {
  job: Signal<Job | undefined>;
  /** Its links; none until they are read. */
  links: Signal<readonly Link[]>;
  loaded: Signal<boolean>;
}

/**
 * Opens the job of a page and shows where the page stands, in the header. Call it where the page is built.
 * @param here the stage it belongs to
 */
export function jobOfPage(jobId: Signal<string>, name: string, here?: string): JobOfPage {
  const store = inject(Store);
  const header = inject(Header);
  const jobs = store.selectSignal(jobsFeature.selectJobEntities);
  const all = store.selectSignal(jobsFeature.selectAllLinks);
  const linksOf = store.selectSignal(jobsFeature.selectLinksOf);
  const job = computed(() => jobs()[jobId()]);
  const loaded = computed(() => linksOf() === jobId());
  const links = computed(() => (loaded() ? all() : []));
  effect(() => {
    const id = jobId();
    untracked(() => store.dispatch(JobEvents.jobOpened({ jobId: id })));
  });
  effect(() => {
    const known = job();
    if (!known) return;
    header.show(
      [{ name: known.site, link: '/jobs' }, { name: known.title, link: ['/jobs', known.id] }, { name }],
      jobStations(known.id, links(), here),
    );
  });
  return { job, links, loaded };
}
