import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { type HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { provideRouter, Router } from '@angular/router';
import type { Instrument, Kit, LinkDetail, OwnCrew, Role } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  diagnose,
  observe,
  TOOL_TYPES,
  type InstrumentClass,
  type TrueLink,
} from '@near-spoke/core';
import { provideStore, Store, type Action } from '@ngrx/store';
import { throwError } from 'rxjs';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { workOut } from '../link/belief-told';
import { WORK_OUT_BELIEF, type BeliefJob, type Working } from '../link/belief-work';
import { LinkEvents, linkFeature } from '../link/link.state';
import { sessionFeature, SessionEvents } from '../session/session.state';
import { someDetail, someExpectation } from './links';
import { signedInAs } from './sessions';

/** A room of a link, on a real store without a server: what it asks for is heard as dispatched events. */
export interface Room<C> {
  fixture: ComponentFixture<C>;
  page: HTMLElement;
  loader: HarnessLoader;
  store: Store;
  /** Events dispatched by the room since it was shown. */
  asked: Action[];
  /** Where the room has led, newest last. */
  ways: string[];
  text(selector: string): string;
  press(key: string): Promise<void>;
  /** When what was asked of a fake server is answered and drawn. */
  settled(): Promise<void>;
  /** When something holds: for what a worker or a file's reading takes its own time for. */
  until(holds: () => boolean): Promise<void>;
}

const first = (sheets: readonly { id: string }[]): Record<string, number> =>
  Object.fromEntries(sheets.map((sheet) => [sheet.id, 1]));

/** The kit as it ships, every sheet in its first version. */
export const SHIPPED_KIT: Kit = {
  cables: [...CABLE_TYPES],
  connectors: [...CONNECTOR_TYPES],
  tools: [...TOOL_TYPES],
  versions: { cable: first(CABLE_TYPES), connector: first(CONNECTOR_TYPES), tool: first(TOOL_TYPES) },
};

export const INSTRUMENT: Instrument = {
  name: 'Test set',
  classes: ['coded-mapper-crosstalk', 'coded-mapper', 'lamp-pairs', 'pair-reflectometer', 'eye'],
  connected: true,
  simulated: true,
};

/** The detail of a link that these readings were taken on. */
export function detailWith(
  link: TrueLink,
  instruments: InstrumentClass[],
  change: Partial<LinkDetail> = {},
): LinkDetail {
  const readings = instruments.map((instrument) => observe(link, instrument, { end: 'far' }));
  const diagnosis = readings.length > 0 ? diagnose(someExpectation(), readings) : null;
  const stage =
    diagnosis === null
      ? 'both-ends'
      : diagnosis.result === 'fail'
        ? 'failed'
        : diagnosis.proves === 'map'
          ? 'proved'
          : 'both-ends';
  const base = someDetail();
  return {
    ...base,
    link: { ...base.link, stage },
    diagnosis,
    tests: readings.map((reading, i) => ({
      id: `test-${i}`,
      // After the two ends.
      turn: 3 + i,
      at: `2026-11-02T09:0${i}:00.000Z`,
      by: 'Tobi',
      source: 'keyed' as const,
      simulated: false,
      instrumentName: 'pocket mapper',
      reading,
      diagnosis: diagnosis as NonNullable<typeof diagnosis>,
      corrects: null,
      misread: '',
      note: '',
    })),
    ...change,
  };
}

/** Belief worked out on the spot, where there is no worker. */
const workOutHere = (job: BeliefJob): Working => ({
  done: Promise.resolve().then(() => workOut(job)),
  cancel: () => undefined,
});

export async function showRoom<C>(
  component: Type<C>,
  options: {
    detail?: LinkDetail;
    role?: Role;
    /** Crews beside the one that is worked in. */
    crews?: readonly OwnCrew[];
    instruments?: Instrument[];
    inputs?: Record<string, unknown>;
  } = {},
): Promise<Room<C>> {
  localStorage.clear();
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      // Where a spec has no server of its own nobody answers.
      {
        provide: HttpClient,
        useValue: { request: () => throwError(() => new HttpErrorResponse({ status: 0 })) },
      },
      { provide: WORK_OUT_BELIEF, useValue: workOutHere },
      provideStore({
        [jobsFeature.name]: jobsFeature.reducer,
        [linkFeature.name]: linkFeature.reducer,
        [sessionFeature.name]: sessionFeature.reducer,
      }),
    ],
  });
  const store = TestBed.inject(Store);
  const detail = options.detail ?? someDetail();
  const crew = {
    id: 'me',
    name: 'Me',
    role: options.role ?? ('technician' as const),
    active: true,
    version: 1,
  };
  store.dispatch(SessionEvents.sessionKnown({ session: signedInAs(crew, 't', options.crews) }));
  store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
  store.dispatch(LinkEvents.linkOpened({ linkId: detail.link.id }));
  store.dispatch(LinkEvents.detailRead({ detail }));
  store.dispatch(LinkEvents.instrumentsRead({ instruments: options.instruments ?? [INSTRUMENT] }));
  const asked: Action[] = [];
  const ways: string[] = [];
  const dispatch = store.dispatch.bind(store);
  spyOn(store, 'dispatch').and.callFake(((action: Action) => {
    asked.push(action);
    dispatch(action);
  }) as typeof store.dispatch);
  const router = TestBed.inject(Router);
  spyOn(router, 'navigate').and.callFake((commands, extras) => {
    const query = new URLSearchParams((extras?.queryParams ?? {}) as Record<string, string>).toString();
    ways.push(commands.join('/') + (query ? `?${query}` : ''));
    return Promise.resolve(true);
  });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(options.inputs ?? {}))
    fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  return {
    fixture,
    page,
    loader: TestbedHarnessEnvironment.loader(fixture),
    store,
    asked,
    ways,
    text: (selector) => page.querySelector(selector)?.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    settled: async () => {
      for (let turn = 0; turn < 3; turn++) {
        await new Promise((later) => setTimeout(later));
        await fixture.whenStable();
      }
    },
    until: async (holds) => {
      for (let turn = 0; turn < 2000 && !holds(); turn++) {
        await new Promise((later) => setTimeout(later, 10));
        await fixture.whenStable();
      }
      expect(holds())
        .withContext(page.textContent?.replace(/\s+/g, ' ') ?? '')
        .toBeTrue();
    },
    press: async (key) => {
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      await fixture.whenStable();
    },
  };
}
