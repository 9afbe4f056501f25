import { TestBed } from '@angular/core/testing';
import type { JobFigures } from '@near-spoke/contracts';
import { figuresOf, type FigureRecord } from '@near-spoke/core';
import { Chart } from 'chart.js';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer } from '../testing/server';
import { FiguresPage } from './figures-page';

const firstTests = (passed: number, of: number): { passed: boolean }[] =>
  Array.from({ length: of }, (_, i) => ({ passed: i < passed }));
const fault = (kind: string, connector: string): FigureRecord['found'][number] => ({
  slip: 'neighbour-swap',
  kind,
  connector,
});
const [PLUG, JACK] = ['8-contact plug', '8-contact jack'];
const FIGURES: JobFigures = {
  job: figuresOf({ firstTests: firstTests(6, 8), found: [fault('swap', PLUG)], ends: [] }),
  crew: figuresOf({
    firstTests: firstTests(45, 50),
    found: [fault('open', JACK), fault('open', JACK), fault('swap', PLUG)],
    ends: [
      { connector: PLUG, count: 40 },
      { connector: JACK, count: 40 },
    ],
  }),
};
const NONE: JobFigures = {
  job: figuresOf({ firstTests: [], found: [], ends: [] }),
  crew: figuresOf({ firstTests: [], found: [], ends: [] }),
};

async function show(figures: JobFigures | null): Promise<Room<FiguresPage>> {
  const server = new FakeServer(figures ? { jobFigures: () => figures } : {});
  TestBed.configureTestingModule({ providers: [server.provider] });
  return showRoom(FiguresPage, { inputs: { jobId: 'job' } });
}
const rows = (room: Room<FiguresPage>, title: string): string[] =>
  [...room.page.querySelectorAll(`[aria-labelledby="${title}"] tbody tr`)].map((row) =>
    [...row.children].map((cell) => cell.textContent?.replace(/\s+/g, ' ').trim()).join(' | '),
  );

describe('figures', () => {
  it('give the first-pass rate with what it rests on and how sure it is', async () => {
    const room = await show(FIGURES);
    const [job, crew] = [...room.page.querySelectorAll('.rate')].map((one) =>
      one.textContent?.replace(/\s+/g, ' ').trim(),
    );
    expect(job).toMatch(/^This job ?75 % 6 of 8 links; the true rate is \d+ % to \d+ %, with 90 % belief$/);
    expect(crew).toMatch(/^The crew, all jobs ?90 % 45 of 50 links/);
    // Eight links say less than fifty: their span is wider.
    const [wide, narrow] = [...room.page.querySelectorAll<HTMLElement>('.band span')].map((one) =>
      parseFloat(one.style.width),
    );
    expect(wide as number).toBeGreaterThan(2 * (narrow as number));
  });

  it('count what was wrong beside the crew’s, the most frequent first, in a chart and in a table', async () => {
    const room = await show(FIGURES);
    expect(rows(room, 'kinds-title')).toEqual(['open | 0 | 2', 'single swap | 1 | 1']);
    const chart = Chart.getChart(room.page.querySelector('canvas') as HTMLCanvasElement);
    expect(chart?.data.datasets.map((set) => set.data)).toEqual([
      [0, 1],
      [2, 1],
    ]);
    room.fixture.destroy();
    expect(chart?.ctx ?? null)
      .withContext('no chart stays behind its page')
      .toBeNull();
  });

  it('put the connector that goes wrong most often first', async () => {
    const room = await show(FIGURES);
    const [first = '', second = ''] = rows(room, 'connectors-title');
    expect(first).toContain('8-contact jack | 40 | 2 | 6 %');
    expect(second).toContain('8-contact plug | 40 | 1 | 4 %');
  });

  it('claim nothing where nothing was read', async () => {
    const room = await show(NONE);
    expect(room.text('.rate')).toMatch(/^This job ?no map has been read yet$/);
    expect(room.page.querySelector('canvas')).toBeNull();
    expect(room.text('[aria-labelledby="kinds-title"]')).toContain('Nothing has been found and mended yet.');
    expect(rows(room, 'connectors-title')).toEqual(['No end has been made yet.']);
  });

  it('say so when they cannot be had', async () => {
    const room = await show(null);
    expect(room.text('ns-problem-note')).toContain('Nobody answers jobFigures.');
    expect(room.page.querySelector('mat-progress-bar')).toBeNull();
  });
});
