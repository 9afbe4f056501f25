import { TestBed } from '@angular/core/testing';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { provideRouter } from '@angular/router';
import type { LinkDetail } from '@near-spoke/contracts';
import { intendedLink } from '@near-spoke/core';
import { App } from './app';
import { Header } from './header';
import { JobEvents } from './jobs/jobs.state';
import { Keys } from './keys/keys';
import { LinkFacts } from './link/link-facts';
import { LinkPage } from './link/link-page';
import { LinkEvents } from './link/link.state';
import { LOAD_ANEW } from './session/other-crew';
import { SessionEvents } from './session/session.state';
import { someDetail, someExpectation, someJob } from './testing/links';
import { detailWith, SHIPPED_KIT, showRoom, type Room } from './testing/rooms';
import { FakeServer } from './testing/server';

describe('the frame around every page', () => {
  const show = async (): Promise<Room<App>> => {
    TestBed.configureTestingModule({ providers: [provideRouter([])] });
    return showRoom(App);
  };

  it('says where one is and how far along the line', async () => {
    const room = await show();
    TestBed.inject(Header).show(
      [{ name: 'Pier', link: '/jobs' }, { name: 'P1-05' }],
      [
        { name: 'Plan', link: ['/jobs', 'a'], reached: true, here: false },
        { name: 'Verify', link: ['/jobs', 'a', 'verify'], reached: true, here: true },
        { name: 'Hand over', link: ['/jobs', 'a', 'hand-over'], reached: false, here: false },
      ],
    );
    await room.fixture.whenStable();
    const crumbs = [...room.page.querySelectorAll('.crumbs > :not([aria-hidden])')];
    expect(crumbs.map((one) => [one.textContent, one.getAttribute('href')])).toEqual([
      ['Pier', '/jobs'],
      ['P1-05', null],
    ]);
    const stations = [...room.page.querySelectorAll('.line a')];
    expect(stations.map((one) => one.textContent?.trim())).toEqual(['Plan', 'Verify', 'Hand over']);
    expect(stations.map((one) => one.getAttribute('aria-current'))).toEqual([null, 'step', null]);
    expect(stations.map((one) => one.classList.contains('reached'))).toEqual([true, true, false]);
  });

  it('is not there for strangers', async () => {
    const room = await show();
    room.store.dispatch(SessionEvents.sessionEnded({ session: { state: 'signed-out', demoPeople: [] } }));
    await room.fixture.whenStable();
    expect(room.page.querySelector('header')).toBeNull();
    expect(room.page.querySelector('#main')).not.toBeNull();
  });

  it('has look, sound, keys and the way out in one menu', async () => {
    const room = await show();
    const list = spyOn(TestBed.inject(Keys), 'showList');
    const menu = await room.loader.getHarness(MatMenuHarness);
    const choose = async (text: RegExp): Promise<void> => {
      await menu.open();
      await menu.clickItem({ text });
    };
    await choose(/^Look: as the system/);
    expect(document.documentElement.dataset['theme']).toBe('light');
    await choose(/^Look: light/);
    await choose(/^Look: dark/);
    expect(document.documentElement.dataset['theme']).toBeUndefined();
    await choose(/^Sound: on/);
    await choose(/^Sound: off/);
    await choose(/^Keys/);
    expect(list).toHaveBeenCalledTimes(1);
    await choose(/^Sign out/);
    expect(room.asked.map((action) => action.type)).toEqual([SessionEvents.signOutAsked.type]);
  });

  it('names the crew where one works in several, and goes on in another with the page loaded anew', async () => {
    const server = new FakeServer({ workInCrew: ({ body }) => body });
    const paths: string[] = [];
    TestBed.configureTestingModule({
      providers: [
        provideRouter([]),
        server.provider,
        { provide: LOAD_ANEW, useValue: (path: string) => paths.push(path) },
      ],
    });
    const room = await showRoom(App, {
      crews: [{ id: 'h', name: 'Harbour crew', role: 'viewer', version: 1 }],
    });
    const menu = await room.loader.getHarness(MatMenuHarness);
    expect(await menu.getTriggerText()).toMatch(/Me\s+Our crew/);
    await menu.open();
    await menu.clickItem({ text: 'Go on in Harbour crew' });
    await room.until(() => paths.length > 0);
    expect([server.sent('workInCrew')[0]?.body, paths]).toEqual([{ crew: 'h' }, ['/jobs']]);
  });

  it('lets the keyboard skip to the page', async () => {
    const room = await show();
    document.body.append(room.page);
    (room.page.querySelector('.skip') as HTMLAnchorElement).click();
    expect(document.activeElement?.id).toBe('main');
    room.page.remove();
  });
});

describe('a link’s page', () => {
  const sound = intendedLink(someExpectation());
  const show = async (detail: LinkDetail): Promise<Room<LinkPage>> => {
    const server = new FakeServer({ listTraces: () => [], goodTraces: () => [] });
    TestBed.configureTestingModule({ providers: [server.provider, provideRouter([])] });
    const room = await showRoom(LinkPage, { detail, inputs: { jobId: 'job', linkId: detail.link.id } });
    room.store.dispatch(LinkEvents.detailRead({ detail }));
    room.store.dispatch(JobEvents.jobsRead({ jobs: [someJob()] }));
    await room.settled();
    return room;
  };
  const reached = (): string[] =>
    TestBed.inject(Header)
      .stations()
      .filter((stop) => stop.reached)
      .map(({ name }) => name);

  it('shows the strip, and how far the link has come on the line', async () => {
    const bare = await show(someDetail({ terminations: [] }));
    expect(bare.text('h1')).toBe('P1-05, Verify');
    expect(bare.page.querySelector('ns-link-strip svg')).not.toBeNull();
    expect(reached()).toEqual(['Plan']);
    TestBed.resetTestingModule();
    await show(detailWith(sound, ['coded-mapper-crosstalk']));
    expect(reached()).toEqual(['Plan', 'Terminate', 'Verify']);
    expect(
      TestBed.inject(Header)
        .crumbs()
        .map(({ name }) => name),
    ).toEqual(['Hall', 'CR-1', 'P1-05']);
  });

  it('waits with the strip until cable and connectors are known', async () => {
    const room = await show(someDetail());
    room.store.dispatch(JobEvents.kitRead({ kit: { ...SHIPPED_KIT, connectors: [] } }));
    await room.settled();
    expect(room.page.querySelector('ns-link-strip')).toBeNull();
    expect(TestBed.inject(LinkFacts).expected()).toBeNull();
  });

  it('says what went wrong beside what is shown', async () => {
    const room = await show(someDetail());
    room.store.dispatch(
      LinkEvents.requestFailed({
        problem: { type: '', title: 'No answer', status: 0, detail: 'The server does not answer.' },
      }),
    );
    await room.settled();
    expect(room.text('ns-problem-note')).toContain('The server does not answer.');
    expect(room.page.querySelector('ns-link-strip')).not.toBeNull();
  });

  it('believes nothing of a link that nothing speaks against', async () => {
    await show(detailWith(sound, ['coded-mapper-crosstalk']));
    const facts = TestBed.inject(LinkFacts);
    expect(facts.workingOut()).toBeFalse();
    expect(facts.explanationPictures()).toEqual([]);
    expect(facts.picture()).not.toBeNull();
  });

  it('has a picture of the link under each explanation', async () => {
    const exchanged = { ...sound, far: { ...sound.far, 1: 'OG', 2: 'WH-OG' } };
    const room = await show(detailWith(exchanged, ['coded-mapper']));
    const facts = TestBed.inject(LinkFacts);
    expect(facts.explanationPictures().length).toBe(facts.detail()?.diagnosis?.explanations.length as number);
    expect(facts.explanationPictures()[0]).not.toBeNull();
    expect(room.text('.strip svg')).toContain('%');
  });
});
