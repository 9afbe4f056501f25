import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import type { SearchFound } from '@near-spoke/contracts';
import { showRoom } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { SearchPage } from './search-page';

const found: SearchFound = {
  understood: [{ text: 'Tobi', as: 'made by Tobi Lund' }],
  words: ['desk'],
  links: [
    {
      linkId: 'l',
      jobId: 'j',
      label: 'P1-05',
      site: 'Pellan Quay',
      title: 'Ticket hall',
      from: 'CR-1 P1 port 05',
      to: 'Hall, desk 2',
      stage: 'failed',
      standing: '1 open',
      at: '2026-11-02T08:00:00.000Z',
    },
  ],
  count: 1000,
  counted: false,
  others: [{ kind: 'reel', id: 'r', name: 'Drum blue', words: 'rg6' }],
};

describe('the search page', () => {
  async function show(answer: (text: string) => SearchFound = () => found) {
    const kept: object[] = [];
    const server = new FakeServer({
      listForms: () => [...kept],
      keepForm: ({ body }) => (kept.push(body as object), body),
      search: ({ params }) => answer(params?.['text'] ?? ''),
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(SearchPage, { inputs: { q: '' } });
    const type = async (text: string): Promise<void> => {
      const box = await room.loader.getHarness(MatInputHarness);
      await box.setValue(text);
      await room.until(() => room.page.querySelector('[role=status], [role=alert]') !== null);
    };
    return { room, server, type };
  }

  it('says what it took the words for, how many there are, and leads to each', async () => {
    const { room, server, type } = await show();
    await type('  made by Tobi   desk ');
    expect(server.sent('search').at(-1)?.params).toEqual({ text: 'made by Tobi desk' });
    const said = room.text('[role=status]');
    expect(said).toContain('Over 1000 links, the newest 1 shown.');
    expect(said).toContain('made by Tobi Lund');
    expect(said).toContain('has “desk”');
    expect(room.page.querySelector('ul a')?.getAttribute('href')).toBe('/jobs/j/links/l');
    expect(room.page.querySelector('.others a')?.getAttribute('href')).toBe('/kit/reels/r');
  });

  it('opens what was found first by Enter', async () => {
    const { room, type } = await show();
    await type('desk');
    const box = room.page.querySelector('input') as HTMLInputElement;
    box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
    await room.settled();
    expect(room.ways.at(-1)).toBe('/jobs/j/links/l');
  });

  it('says that nothing is like that, and what stands in the way of looking', async () => {
    const { room, type } = await show((text) => {
      if (text === 'away') throw refusal('The database does not answer.', 503);
      return { ...found, links: [], count: 0, counted: true, others: [] };
    });
    await type('zzz');
    expect(room.text('[role=status]')).toContain('No link is like that.');
    await type('away');
    await room.until(() => room.page.querySelector('[role=alert]') !== null);
    expect(room.text('[role=alert]')).toContain('The database does not answer.');
  });

  it('keeps a search to be looked for again by one press', async () => {
    const { room, server, type } = await show();
    await type('split pairs');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Keep this search' }))).click();
    await room.settled();
    expect(server.sent('keepForm')[0]?.body).toEqual(
      jasmine.objectContaining({ kind: 'search', name: 'split pairs', body: { text: 'split pairs' } }),
    );
    expect(room.text('.kept')).toContain('split pairs');
  });
});
