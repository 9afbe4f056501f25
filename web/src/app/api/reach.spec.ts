import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { KNOCK, KNOCK_EVERY_MS, Reach, tellReach } from './reach';

describe('whether the server is reached', () => {
  const answers: boolean[] = [];
  let knocked = 0;
  const begin = (): { reach: Reach; http: HttpClient; server: HttpTestingController } => {
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([tellReach])),
        provideHttpClientTesting(),
        {
          provide: KNOCK,
          useValue: () => {
            knocked++;
            return Promise.resolve(answers.shift() ?? false);
          },
        },
        { provide: KNOCK_EVERY_MS, useValue: 5 },
      ],
    });
    answers.length = 0;
    knocked = 0;
    return {
      reach: TestBed.inject(Reach),
      http: TestBed.inject(HttpClient),
      server: TestBed.inject(HttpTestingController),
    };
  };
  const until = async (holds: () => boolean): Promise<void> => {
    for (let turn = 0; turn < 400 && !holds(); turn++) await new Promise((later) => setTimeout(later, 5));
    expect(holds()).toBeTrue();
  };
  const send = (http: HttpClient): void => void http.get('/api/jobs').subscribe({ error: () => undefined });

  it('is told by a request that nothing answers, and asked for until something does', async () => {
    const { reach, http, server } = begin();
    send(http);
    server.expectOne('/api/jobs').error(new ProgressEvent('error'));
    expect(reach.awaySince()).not.toBeNull();
    answers.push(false, false, true);
    await until(() => reach.awaySince() === null);
    expect(knocked).toBe(3);
    expect(reach.back()).toBeTrue();
    reach.seen();
    expect(reach.back()).toBeFalse();
  });

  it('is not in question where it refuses, or answers nonsense', () => {
    const { reach, http, server } = begin();
    for (const status of [401, 409, 503]) {
      send(http);
      server.expectOne('/api/jobs').flush('no', { status, statusText: 'refused' });
      expect(reach.awaySince()).toBeNull();
    }
    expect(reach.back()).toBeFalse();
  });

  it('is there again as soon as any request is answered, and counts from the first that was not', () => {
    const { reach, http, server } = begin();
    reach.lost();
    const first = reach.awaySince();
    reach.lost();
    expect(reach.awaySince()).toBe(first);
    send(http);
    server.expectOne('/api/jobs').flush([]);
    expect([reach.awaySince(), reach.back()]).toEqual([null, true]);
  });

  it('is asked where the device loses its network or finds it, which alone says nothing of the server', async () => {
    const { reach } = begin();
    answers.push(true);
    dispatchEvent(new Event('offline'));
    await until(() => knocked === 1 && !reach.busy());
    // The server runs on this very device.
    expect([reach.awaySince(), reach.back()]).toEqual([null, false]);
    // Nothing answers, however often it is asked.
    dispatchEvent(new Event('offline'));
    await until(() => reach.awaySince() !== null);
    answers.push(true);
    dispatchEvent(new Event('online'));
    await until(() => reach.awaySince() === null);
  });
});
