import type {
  Job,
  JobChange,
  Kit,
  Link,
  LinkChanges,
  LinkDetail,
  NewLink,
  Problem,
} from '@near-spoke/contracts';
import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';

export type JobDraft = Pick<Job, 'id' | 'site' | 'title' | 'hub' | 'scheme' | 'units'>;

export const JobEvents = createActionGroup({
  source: 'Jobs',
  events: {
    'Jobs Opened': emptyProps(),
    'Jobs Read': props<{ jobs: Job[] }>(),
    'Job Opened': props<{ jobId: string }>(),
    'Links Read': props<{ jobId: string; links: Link[] }>(),
    'Kit Needed': emptyProps(),
    'Kit Read': props<{ kit: Kit }>(),
    'Job Drafted': props<{ job: JobDraft }>(),
    'Job Added': props<{ job: Job }>(),
    'Links Drafted': props<{ jobId: string; links: NewLink[] }>(),
    'Links Added': props<{ jobId: string; links: Link[] }>(),
    /** Links were taken out of their job. */
    'Links Gone': props<{ ids: string[] }>(),
    'Links Edited': props<{ jobId: string; changes: LinkChanges['changes'] }>(),
    'Job Edited': props<{ jobId: string; change: JobChange }>(),
    'Job Changed': props<{ job: Job }>(),
    /** A link was worked on elsewhere in the application. */
    'Link Changed': props<{ link: LinkDetail['link'] }>(),
    'Request Failed': props<{ problem: Problem }>(),
  },
});

const jobAdapter = createEntityAdapter<Job>();
const linkAdapter = createEntityAdapter<Link>({ sortComparer: (a, b) => a.position - b.position });

interface State {
  jobs: EntityState<Job>;
  jobsRead: boolean;
  links: EntityState<Link>;
  linksOf: string | null;
  kit: Kit | null;
  busy: boolean;
  problem: Problem | null;
}

const first: State = {
  jobs: jobAdapter.getInitialState(),
  jobsRead: false,
  links: linkAdapter.getInitialState(),
  linksOf: null,
  kit: null,
  busy: false,
  problem: null,
};

export const jobsFeature = createFeature({
  name: 'jobs',
  reducer: createReducer(
    first,
    on(JobEvents.jobsOpened, (state): State => ({ ...state, busy: true, problem: null })),
    on(JobEvents.jobOpened, (state, { jobId }): State => {
      // Links of another job go, and with them the claim that this job's are known.
      const kept = state.linksOf === jobId ? {} : { links: linkAdapter.getInitialState(), linksOf: null };
      return { ...state, ...kept, busy: true, problem: null };
    }),
    on(
      JobEvents.jobDrafted,
      JobEvents.linksDrafted,
      JobEvents.linksEdited,
      JobEvents.jobEdited,
      (state): State => ({
        ...state,
        busy: true,
        problem: null,
      }),
    ),
    on(JobEvents.jobsRead, (state, { jobs }): State => ({
      ...state,
      jobs: jobAdapter.setAll(jobs, state.jobs),
      jobsRead: true,
      busy: false,
    })),
    on(JobEvents.linksRead, (state, { jobId, links }): State => ({
      ...state,
      links: linkAdapter.setAll(links, state.links),
      linksOf: jobId,
      busy: false,
    })),
    on(JobEvents.kitRead, (state, { kit }): State => ({ ...state, kit })),
    on(JobEvents.jobAdded, JobEvents.jobChanged, (state, { job }): State => ({
      ...state,
      jobs: jobAdapter.setOne(job, state.jobs),
      busy: false,
    })),
    on(JobEvents.linksAdded, (state, { links }): State => ({
      ...state,
      links: linkAdapter.setMany(links, state.links),
      busy: false,
    })),
    on(JobEvents.linksGone, (state, { ids }): State => ({
      ...state,
      links: linkAdapter.removeMany(ids, state.links),
    })),
    on(JobEvents.linkChanged, (state, { link }): State =>
      state.linksOf === link.jobId ? { ...state, links: linkAdapter.setOne(link, state.links) } : state,
    ),
    on(JobEvents.requestFailed, (state, { problem }): State => ({ ...state, busy: false, problem })),
  ),
  extraSelectors: ({ selectJobs, selectLinks }) => ({
    selectAllJobs: createSelector(selectJobs, jobAdapter.getSelectors().selectAll),
    selectJobEntities: createSelector(selectJobs, jobAdapter.getSelectors().selectEntities),
    selectAllLinks: createSelector(selectLinks, linkAdapter.getSelectors().selectAll),
  }),
});
