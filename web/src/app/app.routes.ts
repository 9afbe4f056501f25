import type { Routes, UrlMatchResult, UrlSegment } from '@angular/router';
import { sessionKnown, signedIn } from './session/guard';

/** `kit`, `kit/connector` and `kit/connector/coax-n` are one page, which stays while the address changes. */
function kitAddress(segments: UrlSegment[]): UrlMatchResult | null {
  const [kit, kind, typeId, ...more] = segments;
  if (kit?.path !== 'kit' || more.length > 0) return null;
  const posParams = { ...(kind ? { kind } : {}), ...(typeId ? { typeId } : {}) };
  return { consumed: segments, posParams };
}

export const routes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in, Near Spoke',
    canActivate: [sessionKnown],
    loadComponent: () => import('./session/sign-in').then((m) => m.SignIn),
  },
  {
    path: 'help',
    title: 'Help at the other end, Near Spoke',
    loadComponent: () => import('./together/help-page').then((m) => m.HelpPage),
  },
  {
    path: 'help/:code',
    title: 'Help at the other end, Near Spoke',
    loadComponent: () => import('./together/help-page').then((m) => m.HelpPage),
  },
  {
    path: '',
    canActivate: [signedIn],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'jobs' },
      {
        path: 'jobs',
        title: 'Jobs, Near Spoke',
        loadComponent: () => import('./jobs/jobs-page').then((m) => m.JobsPage),
      },
      {
        path: 'find',
        title: 'Find, Near Spoke',
        loadComponent: () => import('./search/search-page').then((m) => m.SearchPage),
      },
      {
        path: 'as-built',
        title: 'As built, Near Spoke',
        loadComponent: () => import('./as-built/as-built-page').then((m) => m.AsBuiltPage),
      },
      {
        path: 'as-built/:site',
        title: 'As built, Near Spoke',
        loadComponent: () => import('./as-built/as-built-page').then((m) => m.AsBuiltPage),
      },
      {
        path: 'waiting',
        title: 'What waits, Near Spoke',
        loadComponent: () => import('./field/waiting-page').then((m) => m.WaitingPage),
      },
      {
        path: 'crew',
        title: 'Crew, Near Spoke',
        loadComponent: () => import('./crew/crew-page').then((m) => m.CrewPage),
      },
      {
        path: 'bench',
        title: 'Bench, Near Spoke',
        loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage),
      },
      {
        path: 'kit/reels',
        title: 'Reels, Near Spoke',
        loadComponent: () => import('./reels/reels-page').then((m) => m.ReelsPage),
      },
      {
        path: 'kit/reels/:reelId',
        title: 'Reels, Near Spoke',
        loadComponent: () => import('./reels/reels-page').then((m) => m.ReelsPage),
      },
      {
        path: 'bench/adapters',
        title: 'Adapters, Near Spoke',
        loadComponent: () => import('./adapters/adapters-page').then((m) => m.AdaptersPage),
      },
      {
        path: 'bench/adapters/:adapterId',
        title: 'Adapter, Near Spoke',
        loadComponent: () => import('./adapters/adapter-page').then((m) => m.AdapterPage),
      },
      {
        path: 'bench/practice',
        title: 'Practice, Near Spoke',
        loadComponent: () => import('./practice/practice-page').then((m) => m.PracticePage),
      },
      {
        path: 'bench/make',
        title: 'Make one, Near Spoke',
        loadComponent: () => import('./make/make-page').then((m) => m.MakePage),
      },
      {
        path: 'bench/cords',
        title: 'Cords, Near Spoke',
        loadComponent: () => import('./cords/cords-page').then((m) => m.CordsPage),
      },
      {
        path: 'bench/line',
        title: 'Line bench, Near Spoke',
        loadComponent: () => import('./bench/line-bench').then((m) => m.LineBench),
      },
      {
        matcher: kitAddress,
        title: 'Kit, Near Spoke',
        loadComponent: () => import('./kit/kit-page').then((m) => m.KitPage),
      },
      {
        path: 'jobs/:jobId/round',
        title: 'Termination round, Near Spoke',
        loadComponent: () => import('./terminate/round-page').then((m) => m.RoundPage),
      },
      {
        path: 'jobs/:jobId/tests',
        title: 'Testing round, Near Spoke',
        loadComponent: () => import('./verify/round-of-tests').then((m) => m.RoundOfTests),
      },
      {
        path: 'jobs/:jobId/figures',
        title: 'Figures, Near Spoke',
        loadComponent: () => import('./figures/figures-page').then((m) => m.FiguresPage),
      },
      {
        path: 'jobs/:jobId',
        title: 'Job, Near Spoke',
        loadComponent: () => import('./jobs/job-page').then((m) => m.JobPage),
      },
      {
        path: 'jobs/:jobId/plan',
        title: 'Plan, Near Spoke',
        loadComponent: () => import('./plan/job-plan').then((m) => m.JobPlan),
      },
      {
        path: 'jobs/:jobId/plan/table',
        title: 'Plan as a table, Near Spoke',
        loadComponent: () => import('./plan/plan-table').then((m) => m.PlanTable),
      },
      {
        path: 'jobs/:jobId/days',
        title: 'Days, Near Spoke',
        loadComponent: () => import('./schedule/days-page').then((m) => m.DaysPage),
      },
      {
        path: 'jobs/:jobId/materials',
        title: 'Materials, Near Spoke',
        loadComponent: () => import('./materials/materials-page').then((m) => m.MaterialsPage),
      },
      {
        path: 'jobs/:jobId/labels',
        title: 'Labels, Near Spoke',
        loadComponent: () => import('./labels/labels-page').then((m) => m.LabelsPage),
      },
      {
        path: 'l/:code',
        title: 'Label, Near Spoke',
        loadComponent: () => import('./labels/scanned').then((m) => m.Scanned),
      },
      {
        path: 'jobs/:jobId/hand-over',
        title: 'Hand over, Near Spoke',
        loadComponent: () => import('./handover/job-handover').then((m) => m.JobHandover),
      },
      {
        path: 'jobs/:jobId/links/:linkId',
        loadComponent: () => import('./link/link-page').then((m) => m.LinkPage),
        children: [
          { path: '', pathMatch: 'full', redirectTo: 'verify' },
          {
            path: 'plan',
            title: 'Plan, Near Spoke',
            loadComponent: () => import('./plan/plan-room').then((m) => m.PlanRoom),
          },
          {
            path: 'terminate',
            title: 'Terminate, Near Spoke',
            loadComponent: () => import('./terminate/terminate-room').then((m) => m.TerminateRoom),
          },
          {
            path: 'verify',
            title: 'Verify, Near Spoke',
            loadComponent: () => import('./verify/verify-room').then((m) => m.VerifyRoom),
          },
          {
            path: 'locate',
            title: 'Locate, Near Spoke',
            loadComponent: () => import('./locate/locate-room').then((m) => m.LocateRoom),
          },
          {
            path: 'hand-over',
            title: 'Hand over, Near Spoke',
            loadComponent: () => import('./handover/link-handover').then((m) => m.LinkHandover),
          },
        ],
      },
    ],
  },
  { path: '**', redirectTo: 'jobs' },
];
