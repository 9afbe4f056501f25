import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import {
  provideRouter,
  Router,
  type ActivatedRouteSnapshot,
  type RouterStateSnapshot,
} from '@angular/router';
import type { CrewMember, SessionState } from '@near-spoke/contracts';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store } from '@ngrx/store';
import { firstValueFrom, isObservable } from 'rxjs';
import { Api } from '../api/api';
import { signedInAs } from '../testing/sessions';
import { FakeServer, refusal } from '../testing/server';
import { sessionKnown, signedIn } from './guard';
import * as session from './session.state';
import { sessionFeature, SessionEvents } from './session.state';
import { SignIn } from './sign-in';

const person = (name: string, role: CrewMember['role']): CrewMember => ({
  id: name.toLowerCase(),
  name,
  role,
  active: true,
  version: 1,
});
const inside = signedInAs(person('Ines', 'lead'), 'secret');
const outside: SessionState = { state: 'signed-out', demoPeople: [person('Tobi', 'technician')] };

/** A store with the session's effects over a server that says who is there. */
function begin(server: FakeServer): { store: Store; ways: string[] } {
  const { beginSession, endSession, keepToken, moveOn } = session;
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      server.provider,
      provideStore({ [sessionFeature.name]: sessionFeature.reducer }),
      provideEffects({ beginSession, endSession, keepToken, moveOn }),
    ],
  });
  const ways: string[] = [];
  spyOn(TestBed.inject(Router), 'navigateByUrl').and.callFake((way) => {
    ways.push(String(way));
    return Promise.resolve(true);
  });
  return { store: TestBed.inject(Store), ways };
}
const guard = async (which: typeof signedIn): Promise<string> => {
  const answer = TestBed.runInInjectionContext(() =>
    which({} as ActivatedRouteSnapshot, {} as RouterStateSnapshot),
  );
  const said = isObservable(answer) ? await firstValueFrom(answer) : await answer;
  return String(said);
};

describe('a session', () => {
  it('begins by name and passphrase, proves later changes, and leads to the jobs', async () => {
    const server = new FakeServer({ signIn: () => inside, signOut: () => outside });
    const { store, ways } = begin(server);
    store.dispatch(SessionEvents.signInAsked({ name: 'Ines', passphrase: 'quiet tide under bridge' }));
    expect(server.sent('signIn')[0]?.body).toEqual({ name: 'Ines', passphrase: 'quiet tide under bridge' });
    expect(ways).toEqual(['/jobs']);
    expect(TestBed.inject(Api).forgeryToken).toBe('secret');
    store.dispatch(SessionEvents.signOutAsked());
    expect(ways).toEqual(['/jobs', '/sign-in']);
    expect(TestBed.inject(Api).forgeryToken).toBe('');
  });

  it('stays where it is when it is refused, with the reason, and may be tried again', async () => {
    let wrong = true;
    const server = new FakeServer({
      signIn: () => {
        if (wrong) throw refusal('Name and passphrase do not fit together.', 401);
        return inside;
      },
    });
    const { store, ways } = begin(server);
    const now = store.selectSignal(sessionFeature.selectSessionState);
    store.dispatch(SessionEvents.signInAsked({ name: 'Ines', passphrase: 'wrong' }));
    expect([now().busy, now().problem?.detail]).toEqual([false, 'Name and passphrase do not fit together.']);
    expect(ways).toEqual([]);
    wrong = false;
    store.dispatch(SessionEvents.signInAsked({ name: 'Ines', passphrase: 'right' }));
    expect([now().problem, ways]).toEqual([null, ['/jobs']]);
  });

  it('begins with the first lead, once there is none', async () => {
    const server = new FakeServer({ setup: () => inside });
    const { store } = begin(server);
    store.dispatch(
      SessionEvents.firstLeadGiven({ id: 'i', name: 'Ines', passphrase: 'quiet tide under bridge' }),
    );
    expect(server.sent('setup')[0]?.body).toEqual({
      id: 'i',
      name: 'Ines',
      passphrase: 'quiet tide under bridge',
    });
    expect(store.selectSignal(sessionFeature.selectIsLead)()).toBeTrue();
  });
});

describe('who may pass', () => {
  it('is whoever is signed in; the server is asked once', async () => {
    const server = new FakeServer({ session: () => inside });
    begin(server);
    expect(await guard(signedIn)).toBe('true');
    expect(await guard(signedIn)).toBe('true');
    expect(server.asked.length).toBe(1);
  });

  it('is nobody else, nor anybody while the server is silent', async () => {
    const server = new FakeServer({ session: () => outside });
    begin(server);
    expect(await guard(signedIn)).toBe('/sign-in');
    TestBed.resetTestingModule();
    begin(new FakeServer({}));
    expect(await guard(signedIn)).toBe('/sign-in');
  });

  it('is not asked to sign in twice', async () => {
    begin(new FakeServer({ session: () => inside }));
    expect(await guard(sessionKnown)).toBe('/jobs');
    TestBed.resetTestingModule();
    begin(new FakeServer({ session: () => outside }));
    expect(await guard(sessionKnown)).toBe('true');
    TestBed.resetTestingModule();
    begin(new FakeServer({}));
    expect(await guard(sessionKnown)).toBe('true');
  });
});

describe('the sign-in page', () => {
  async function show(state: SessionState, server: FakeServer) {
    const { store } = begin(server);
    store.dispatch(SessionEvents.sessionKnown({ session: state }));
    const fixture = TestBed.createComponent(SignIn);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const write = (name: string, text: string): void => {
      const field = page.querySelector(`[formcontrolname="${name}"]`) as HTMLInputElement;
      field.value = text;
      field.dispatchEvent(new Event('input'));
    };
    return { page, fixture, write };
  }

  it('lets people of the demo in by one click', async () => {
    const server = new FakeServer({ demoSignIn: () => inside });
    const { page } = await show(outside, server);
    const [tobi] = page.querySelectorAll<HTMLButtonElement>('li button');
    expect(tobi?.textContent?.trim()).toBe('Tobi, technician');
    tobi?.click();
    expect(server.sent('demoSignIn')[0]?.body).toEqual({ crewId: 'tobi' });
  });

  it('asks for name and passphrase where there is no demo, and shows why it refuses', async () => {
    const server = new FakeServer({
      signIn: () => {
        throw refusal('Name and passphrase do not fit together.', 401);
      },
    });
    const { page, fixture, write } = await show({ state: 'signed-out', demoPeople: [] }, server);
    expect(page.querySelector('#demo-title')).toBeNull();
    write('name', 'Ines');
    write('passphrase', 'guess');
    page.querySelector('form')?.dispatchEvent(new Event('submit'));
    await fixture.whenStable();
    expect(page.querySelector('ns-problem-note')?.textContent).toContain('do not fit together');
    expect((page.querySelector('[formcontrolname="name"]') as HTMLInputElement).value).toBe('Ines');
  });

  it('asks for the first lead at the very first start', async () => {
    const server = new FakeServer({ setup: () => inside });
    const { page, write } = await show({ state: 'setup' }, server);
    expect(page.querySelector('h2')?.textContent).toBe('Make the first lead');
    write('name', 'Ines');
    write('passphrase', 'quiet tide under bridge');
    page.querySelector('form')?.dispatchEvent(new Event('submit'));
    expect(server.sent('setup')[0]?.body).toEqual(
      jasmine.objectContaining({ name: 'Ines', passphrase: 'quiet tide under bridge' }),
    );
  });
});
