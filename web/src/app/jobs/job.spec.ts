import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Link } from '@near-spoke/contracts';
import { someLink } from '../testing/links';
import { JobEvents, jobsFeature } from './jobs.state';
import { labelSeries } from './label-series';
import { LinkTable } from './link-table';
import { mostUrgent } from './rooms';
import { SpokeMap } from './spoke-map';

const links = (...stages: Link['stage'][]): Link[] =>
  stages.map((stage, i) =>
    someLink({ id: `id-${i}`, label: `P1-0${i + 1}`, position: i + 1, stage, lengthM: 10 * (i + 1) }),
  );

describe('labels that follow one another', () => {
  it('count up and keep their width', () => {
    expect(labelSeries('P1-09', 3)).toEqual(['P1-09', 'P1-10', 'P1-11']);
    expect(labelSeries('V9', 2)).toEqual(['V9', 'V10']);
    expect(labelSeries('mast', 2)).toEqual(['mast', 'mast 2']);
    expect(labelSeries('009007199254740993', 2)).toEqual(['009007199254740993', '009007199254740994']);
  });
});

describe('what is most urgent', () => {
  it('is what is wrong, then what waits for a test, then what is begun; never what is handed over', () => {
    expect(mostUrgent(links('planned', 'proved', 'both-ends', 'failed'))?.stage).toBe('failed');
    expect(mostUrgent(links('planned', 'one-end', 'both-ends'))?.stage).toBe('both-ends');
    expect(mostUrgent(links('handed-over'))).toBeUndefined();
  });
});

describe('the jobs’ state', () => {
  const reduce = jobsFeature.reducer;
  const first = reduce(undefined, { type: 'start' });

  it('keeps links in panel order and only of the job that is open', () => {
    const [a, b] = links('planned', 'planned');
    const read = reduce(first, JobEvents.linksRead({ jobId: 'job', links: [b as Link, a as Link] }));
    expect(read.links.ids).toEqual(['id-0', 'id-1']);
    expect(reduce(read, JobEvents.jobOpened({ jobId: 'another' })).links.ids).toEqual([]);
    expect(reduce(read, JobEvents.jobOpened({ jobId: 'job' })).links.ids).toEqual(['id-0', 'id-1']);
  });

  it('does not take a job for empty whose links went when another was opened in between', () => {
    const read = reduce(first, JobEvents.linksRead({ jobId: 'job', links: links('planned') }));
    const left = reduce(read, JobEvents.jobOpened({ jobId: 'another' }));
    expect(left.linksOf).toBeNull();
    expect(reduce(left, JobEvents.jobOpened({ jobId: 'job' })).linksOf).toBeNull();
  });

  it('hears of a link that changed elsewhere, if it is of this job', () => {
    const [a] = links('failed');
    const read = reduce(first, JobEvents.linksRead({ jobId: 'job', links: [a as Link] }));
    const changed = reduce(read, JobEvents.linkChanged({ link: { ...(a as Link), stage: 'proved' } }));
    expect(changed.links.entities['id-0']?.stage).toBe('proved');
    const foreign = reduce(
      read,
      JobEvents.linkChanged({ link: { ...(a as Link), id: 'x', jobId: 'elsewhere' } }),
    );
    expect(foreign.links.ids).toEqual(['id-0']);
  });
});

describe('the spoke map', () => {
  async function draw(list: Link[]) {
    TestBed.configureTestingModule({ imports: [SpokeMap], providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(SpokeMap);
    fixture.componentRef.setInput('links', list);
    fixture.componentRef.setInput('hub', 'CR-1');
    await fixture.whenStable();
    return fixture.nativeElement as HTMLElement;
  }

  it('draws one spoke per link, to length from the rim of the hub, and names the count for those who do not see it', async () => {
    const page = await draw(links('failed', 'proved', 'planned'));
    const lengths = [...page.querySelectorAll('.spoke')].map((spoke) => {
      const line = spoke.querySelectorAll('line')[1] as SVGLineElement;
      const at = (name: string): number => Number(line.getAttribute(name));
      return Math.hypot(at('x2') - at('x1'), at('y2') - at('y1'));
    });
    expect(lengths.length).toBe(3);
    expect((lengths[1] as number) / (lengths[0] as number)).toBeCloseTo(2, 6);
    expect((lengths[2] as number) / (lengths[0] as number)).toBeCloseTo(3, 6);
    expect(page.querySelector('svg')?.getAttribute('aria-label')).toContain(
      '3 links from CR-1: 1 proved, 1 wrong, 1 planned',
    );
  });

  it('drops the labels when there is no room for them, not the links', async () => {
    const many = Array.from({ length: 200 }, (_, i) =>
      someLink({ id: `n${i}`, label: `L-${i}`, position: i }),
    );
    const page = await draw(many);
    expect(page.querySelectorAll('.spoke').length).toBe(200);
    expect(page.querySelectorAll('.spoke text').length).toBe(0);
  });
});

describe('the link table', () => {
  async function show(list: Link[]) {
    TestBed.configureTestingModule({
      imports: [LinkTable],
      providers: [provideZonelessChangeDetection(), provideRouter([])],
    });
    const fixture = TestBed.createComponent(LinkTable);
    fixture.componentRef.setInput('links', list);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const labels = (): string[] => [...page.querySelectorAll('tbody a')].map((a) => a.textContent ?? '');
    return { fixture, page, labels };
  }

  it('puts what is wrong first and leads to the room of the next work', async () => {
    const { page, labels } = await show(links('handed-over', 'planned', 'failed'));
    expect(labels()).toEqual(['P1-03', 'P1-02', 'P1-01']);
    expect(page.querySelector('tbody a')?.getAttribute('href')).toBe('/jobs/job/links/id-2/verify');
  });

  it('sorts by any column, and back, and says so', async () => {
    const { fixture, page, labels } = await show(links('planned', 'planned', 'planned'));
    const length = page.querySelector('th.length button') as HTMLButtonElement;
    length.click();
    await fixture.whenStable();
    expect(labels()).toEqual(['P1-01', 'P1-02', 'P1-03']);
    length.click();
    await fixture.whenStable();
    expect(labels()).toEqual(['P1-03', 'P1-02', 'P1-01']);
    expect(page.querySelector('th.length')?.getAttribute('aria-sort')).toBe('descending');
  });
});
