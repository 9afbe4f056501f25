import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideHttpClient } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { firstValueFrom } from 'rxjs';
import { Api, ApiProblem, problemOf } from '../api/api';
import { sessionFeature, SessionEvents } from '../session/session.state';
import { someDetail, someLink } from '../testing/links';
import { signedInAs } from '../testing/sessions';
import { LinkEvents, linkFeature } from './link.state';

describe('a link’s state', () => {
  const reduce = linkFeature.reducer;
  const first = reduce(undefined, { type: 'start' });
  const opened = reduce(first, LinkEvents.linkOpened({ linkId: 'link' }));

  it('drops an answer that comes for a link no longer open', () => {
    const other = someDetail({ link: someLink({ id: 'other' }) });
    expect(reduce(opened, LinkEvents.detailRead({ detail: other })).detail).toBeNull();
  });

  it('keeps what is shown while a request fails', () => {
    const read = reduce(opened, LinkEvents.detailRead({ detail: someDetail() }));
    const failed = reduce(
      read,
      LinkEvents.requestFailed({ problem: { type: '', title: 'No answer', status: 0, detail: 'x' } }),
    );
    expect(failed.detail).not.toBeNull();
    expect(failed.busy).toBeFalse();
  });

  it('remembers through a round that both ends are unplugged, not what was seen on the last link', () => {
    const begun = reduce(opened, LinkEvents.roundBegun());
    const seen = reduce(
      begun,
      LinkEvents.coloursSeen({
        taken: {
          takenId: 'taken',
          simulated: true,
          reading: { instrument: 'eye', end: 'far', colours: {} },
          instrumentName: 'x',
        },
      }),
    );
    const next = reduce(seen, LinkEvents.linkOpened({ linkId: 'another' }));
    expect(next.unplugged).toBeTrue();
    expect(next.coloursSeen).toBeNull();
  });
});

describe('the session’s state', () => {
  it('lets technicians and leads work, viewers only look', () => {
    const who = (role: 'lead' | 'technician' | 'viewer') => ({
      session: signedInAs({ id: 'a', name: 'A', role, active: true, version: 1 }),
    });
    const work = (role: 'lead' | 'technician' | 'viewer'): boolean =>
      sessionFeature.selectMayWork.projector(
        sessionFeature.selectCrew.projector(
          sessionFeature.reducer(undefined, SessionEvents.sessionKnown(who(role))).session,
        ),
      );
    expect([work('lead'), work('technician'), work('viewer')]).toEqual([true, true, false]);
  });
});

describe('calling the server', () => {
  let api: Api;
  let server: HttpTestingController;
  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [provideZonelessChangeDetection(), provideHttpClient(), provideHttpClientTesting()],
    });
    api = TestBed.inject(Api);
    server = TestBed.inject(HttpTestingController);
  });

  it('fills the address and proves that the page itself asks', () => {
    api.forgeryToken = 'secret';
    void firstValueFrom(api.call('handOver', { params: { linkId: 'a/b' }, body: { id: 'x' } })).catch(
      () => undefined,
    );
    const { request } = server.expectOne('/api/links/a%2Fb/handover');
    expect(request.headers.get('x-near-spoke-token')).toBe('secret');
    expect(request.method).toBe('POST');
  });

  it('passes problem details on, and says plainly when there is no answer', async () => {
    const refused = firstValueFrom(api.call('listJobs', {})).catch((error: unknown) => error);
    server
      .expectOne('/api/jobs')
      .flush({ title: 'Sign in', status: 401, detail: 'Sign in first.' }, { status: 401, statusText: '' });
    expect(await refused).toBeInstanceOf(ApiProblem);
    expect(problemOf(await refused).detail).toBe('Sign in first.');
    const silent = firstValueFrom(api.call('listJobs', {})).catch((error: unknown) => error);
    server.expectOne('/api/jobs').error(new ProgressEvent('error'));
    expect(problemOf(await silent).title).toBe('No answer');
  });
});
