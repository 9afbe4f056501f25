import { TestBed } from '@angular/core/testing';
import type { LooseEnd, NewLooseEnd } from '@near-spoke/contracts';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { JobEvents } from '../jobs/jobs.state';
import { SHIPPED_KIT, showRoom } from '../testing/rooms';
import { madeLately, makeAgain } from './made-lately';
import { MakePage } from './make-page';

const line = (change: Partial<LooseEnd> = {}): LooseEnd => ({
  id: 'e1',
  at: '2026-11-03T08:00:00Z',
  by: 'Me',
  name: '',
  cableTypeId: 'rg6',
  cable: 'RG-6, 75 ohm',
  connectorTypeId: 'coax-f',
  connector: 'F plug, compression, for RG-6',
  scheme: 'T568B',
  outcome: 'good',
  connectorsSpoiled: 0,
  reason: '',
  lot: '',
  tool: '',
  stopgap: '',
  proof: null,
  givenTo: null,
  ...change,
});

describe('making one end without a job', () => {
  const page = async (inputs: Record<string, string> = {}, book: LooseEnd[] = []) => {
    const sent: NewLooseEnd[] = [];
    const call = (id: string, { body }: { body?: NewLooseEnd }) => {
      if (id !== 'addLooseEnd' || !body) return of(book);
      sent.push(body);
      return of([line({ ...body, proof: null } as Partial<LooseEnd>), ...book]);
    };
    TestBed.overrideProvider(Api, { useValue: { call } });
    const room = await showRoom(MakePage, { inputs });
    room.store.dispatch(JobEvents.kitRead({ kit: SHIPPED_KIT }));
    await room.fixture.whenStable();
    return { ...room, sent };
  };
  const names = (html: HTMLElement): string[] =>
    [...html.querySelectorAll('.tiles .tile')].map(
      (tile) => tile.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    );

  it('asks what is in the hand, then which of these, then what goes on it', async () => {
    expect(names((await page()).page)[0]).toContain('Four twisted pairs');
    TestBed.resetTestingModule();
    const group = await page({ group: 'coax' });
    expect(group.text('h2')).toContain('Which of these?');
    TestBed.resetTestingModule();
    const cable = await page({ cable: 'rg6' });
    expect(cable.text('h2')).toContain('What goes on it?');
    expect(names(cable.page)[0]).toContain('F plug, compression');
    expect(names(cable.page).join()).not.toContain('8-contact');
  });

  it('shows the card, with a scheme to choose only where one is followed', async () => {
    const plug = await page({ cable: 'cat6-u', connector: 'plug-closed' });
    expect(plug.text('.middle')).toContain('Step 1 of');
    expect(plug.text('.steps')).toContain('T568B: take T568A');
    TestBed.resetTestingModule();
    const coax = await page({ cable: 'rg6', connector: 'coax-f' });
    expect(coax.text('.steps')).not.toContain('T568');
  });

  it('keeps a line in the book and begins the next one at its first step', async () => {
    const { press, sent, text } = await page({ cable: 'cat6-u', connector: 'jack-punched' });
    for (let n = 0; n < 30 && sent.length === 0; n++) await press('PageDown');
    expect(sent[0]).toEqual(
      jasmine.objectContaining({
        cableTypeId: 'cat6-u',
        connectorTypeId: 'jack-punched',
        outcome: 'good',
        touched: null,
      }),
    );
    expect(text('.kept')).toContain('In the book');
    expect(text('.middle')).toContain('Step 1 of');
  });

  it('remembers the last ten kinds of ends, the last one first and each once', () => {
    localStorage.clear();
    for (let n = 0; n < 12; n++) makeAgain({ cable: 'rg6', connector: `c${n}` });
    makeAgain({ cable: 'rg6', connector: 'c5' });
    expect(madeLately().map(({ connector }) => connector)).toEqual([
      'c5',
      'c11',
      'c10',
      'c9',
      'c8',
      'c7',
      'c6',
      'c4',
      'c3',
      'c2',
    ]);
    localStorage.setItem('near-spoke-made', 'no list');
    expect(madeLately()).toEqual([]);
  });

  it('shows the book with what was metered and where it went', async () => {
    const { text } = await page({}, [
      line({ name: 'lounge tail', proof: 'proved' }),
      line({
        id: 'e2',
        givenTo: { jobId: 'j', title: 'Visitor dome', at: '2026-11-03T08:00:00Z', by: 'Me' },
      }),
    ]);
    expect(text('ns-loose-book')).toMatch(/lounge tail.*good, proved\./);
    expect(text('ns-loose-book')).toContain('Given to Visitor dome');
  });
});
