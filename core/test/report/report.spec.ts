import { REPORT_PARTS, type ReportPartId } from '../../src/index.js';
import {
  attachedIn,
  checkReport,
  dataInPage,
  linkStory,
  makeReport,
  photosIn,
  reportHtml,
  sealOfReport,
  type Block,
  type Cell,
  type ReportData,
  type ReportLooseEnd,
} from '../../src/report.js';
import { JPEG, notedLink, PHOTO, reportLink, someReport } from './some-report.js';

const cellText = (cell: Cell): string => (typeof cell === 'string' ? cell : [cell.text, cell.note].join(' '));
const textOf = (block: Block): string => {
  if (block.type === 'table') return block.rows.map((row) => row.map(cellText).join(' | ')).join('\n');
  if (block.type === 'facts') return block.facts.map(({ name, value }) => `${name}: ${value}`).join('\n');
  if (block.type === 'picture') return block.svg;
  return block.type === 'text' || block.type === 'heading' ? block.text : '';
};
const part = (data: ReportData, id: ReportPartId): string =>
  makeReport({ ...data, parts: [id] })
    .sections.flatMap(({ blocks }) => blocks.map(textOf))
    .join('\n');
const pictures = (data: ReportData, id: ReportPartId) =>
  makeReport({ ...data, parts: [id] }).sections.flatMap(({ blocks }) =>
    blocks.flatMap((block) => (block.type === 'picture' ? [block] : [])),
  );

const all = ['planned', 'made', 'proved', 'handed-over', 'mended', 'failed'] as const;
const links = all.map((course, n) => reportLink(n + 1, course));
const report = someReport(links);

describe('a report', () => {
  it('is the same, word for word, from the same data, and holds its parts in the order wanted', () => {
    expect(reportHtml(JSON.parse(JSON.stringify(report)) as ReportData)).toBe(reportHtml(report));
    const parts = ['seal', 'links'] as const;
    expect(makeReport({ ...report, parts }).sections.map(({ id }) => id)).toEqual(['seal', 'links']);
    expect(makeReport(report).sections.length).toBe(REPORT_PARTS.length);
  });

  it('counts links by how far they came, and says that none is certified', () => {
    const summary = part(report, 'summary');
    expect(summary).toContain('Links: 6: 2 handed over, 1 proved, 1 wrong, 1 to be tested, 1 planned');
    expect(summary).toContain('Tested: 4, of which 2 failed at least once');
    expect(summary).toContain('None is a certification');
    expect(summary).toContain('over the plans and records of the 2 links'.replace('over', 'Over'));
  });

  it('warns of simulated readings, in words and not by colour alone', () => {
    const simulated = structuredClone(links[3]);
    if (!simulated?.diagnosis) throw new Error('no verdict');
    simulated.diagnosis = { ...simulated.diagnosis, simulated: true };
    expect(part(someReport([simulated]), 'summary')).toContain('1 verdicts rest on simulated readings');
    expect(part(someReport([simulated]), 'links')).toContain('handed over, simulated');
  });

  it('draws each panel in the order of its ports, however they were added', () => {
    const turned = [12, 2, 10].map((n) => reportLink(n, 'planned'));
    const [panel] = pictures(someReport(turned), 'panels');
    const ports = [...(panel?.svg ?? '').matchAll(/>P1-(\d\d)</g)].map((match) => match[1]);
    expect(ports).toEqual(['02', '10', '12']);
  });

  it('draws every stretch once, to one scale, over as many drawings as it takes', () => {
    const many = Array.from({ length: 60 }, (_, n) => reportLink(n + 1, 'planned'));
    const drawn = pictures(someReport(many), 'routes');
    expect(drawn.length).toBe(3);
    const names = drawn.flatMap(({ svg }) =>
      [...svg.matchAll(/>(tray|bay \d+), /g)].map((match) => match[1]),
    );
    expect(names.length).toBe(61);
    expect(new Set(names).size).toBe(61);
    for (const { heightMm } of drawn) expect(heightMm).toBeLessThan(240);
    const none = someReport([reportLink(1, 'planned', { route: [] })]);
    expect(part(none, 'routes')).toBe('No link has a route on record.');
  });

  it('tells of a link that was mended what was read, what it could be, what was done, and what came of it', () => {
    const story = part(someReport([links[4] as (typeof links)[0]]), 'stories');
    expect(story).toContain('Found: 1 and 2 exchanged');
    expect(story).toContain('Wire map as it was read');
    expect(story).toMatch(/\d+ % \| Far plug: .*exchanged/);
    expect(story).toMatch(
      /near end terminated[^]*1 and 2 exchanged[^]*far end terminated[^]*Map right[^]*handed over/,
    );
    expect(story).toContain('At the end: Map right.');
    expect(part(someReport([links[5] as (typeof links)[0]]), 'stories')).toContain(
      'No reading since has shown it mended.',
    );
    expect(part(someReport([links[2] as (typeof links)[0]]), 'stories')).toBe('No link failed a test.');
  });

  it('draws in a wire map what arrives elsewhere heavy and dashed, and what arrives nowhere as an end', () => {
    const [map] = pictures(someReport([links[5] as (typeof links)[0]]), 'stories');
    expect(map?.svg.match(/stroke-dasharray/g)?.length).toBe(2);
    const open = structuredClone(links[5] as (typeof links)[0]);
    const [test] = open.tests;
    if (!test || !('arrivals' in test.reading)) throw new Error('no map');
    test.reading = { ...test.reading, arrivals: { ...test.reading.arrivals, '1': [], '2': ['2'] } };
    const [cut] = pictures(someReport([open]), 'stories');
    expect(cut?.svg.match(/stroke-dasharray/g)).toBeNull();
    expect(cut?.svg.match(/stroke="#a8321f"/g)?.length).toBe(2);
  });

  it('draws a trace over metres with what explains it, each event at its place, the main one heavy', () => {
    const told = someReport([notedLink(9)]);
    const [, trace] = pictures(told, 'stories');
    expect(trace?.svg).toContain('>open, 26.1 m<');
    expect(trace?.svg).toContain('>joint, 4.2 m<');
    const story = part(told, 'stories');
    expect(story).toContain('Trace of pair 4-5 from the near end, pair 4-5.csv');
    expect(story).toContain('26.1 m | ± 0.2 m | open');
    const imperial = part(
      { ...told, links: told.links.map((link) => ({ ...link, units: 'imperial' })) },
      'stories',
    );
    expect(imperial).toContain('>open, 85.6 ft<');
    const dead = structuredClone(notedLink(9));
    dead.traces = dead.traces?.map((one) => ({ ...one, seen: [], model: [], events: [], main: null }));
    expect(part(someReport([dead]), 'stories')).toContain('no launch can be seen in it');
  });

  it('tells measured lengths beside the planned ones, of links that are right, with what they rest on', () => {
    const link = structuredClone(links[2] as (typeof links)[0]);
    const [test] = link.tests;
    if (!test) throw new Error('no test');
    const echo = (distanceM: number) => [{ kind: 'open' as const, distanceM }];
    const reading = {
      instrument: 'pair-reflectometer' as const,
      from: 'near' as const,
      pairs: { '1-2': echo(33.8), '3-6': echo(34.4), '4-5': echo(34.1), '7-8': [] },
    };
    link.tests = [{ ...test, id: 'echo', turn: 9, instrumentName: 'pair reader', reading }, ...link.tests];
    const told = part(someReport([link]), 'lengths');
    expect(told).toContain('P1-03  | 33.0 m | 34.1 m | ± 1.0 m | pair reader');
    expect(told).toContain('rest on the velocity that was set');
    expect(part(someReport([{ ...link, diagnosis: null }]), 'lengths')).toContain('No length was measured');
  });

  it('tells ends that were made loose beside those of links, what is wrong with them as such', () => {
    const end: ReportLooseEnd = {
      id: 'e1',
      at: '2026-11-19T08:00:00.000Z',
      by: 'Marek',
      name: 'bar tail',
      cable: 'RG-6',
      connector: 'F plug',
      outcome: 'good',
      lot: 'L4',
      tool: '',
      stopgap: 'no boot',
      proof: 'proved',
      notAsCard: [],
      functionTest: [
        { what: 'a picture', does: true },
        { what: 'sound', does: null },
      ],
      photos: [],
    };
    const told = (change: Partial<ReportLooseEnd>): string =>
      part({ ...someReport([]), looseEnds: [{ ...end, ...change }] }, 'terminations');
    expect(told({})).toContain('bar tail');
    expect(told({})).toContain('proved; colours as its card; does: a picture; 1 of 2 functions not tried');
    expect(told({})).toContain('Stopgap: no boot');
    expect(
      told({ proof: null, notAsCard: ['1', '2'], functionTest: [{ what: 'sound', does: false }] }),
    ).toContain('not metered; colours not as its card on 1, 2; does not do: sound');
    expect(told({ outcome: 'spoiled' })).not.toContain('bar tail');
  });

  it('prints photos as far as forty megabytes go, and names the others', () => {
    const noted = notedLink(9);
    const photo = (n: number) => ({ ...PHOTO, sha256: String(n).padStart(64, '0'), bytes: 15_000_000 });
    noted.notes = (noted.notes ?? []).flatMap((note) =>
      note.photo ? [1, 2, 3].map((n) => ({ ...note, id: String(n), photo: photo(n) })) : [],
    );
    const data = someReport([noted]);
    const [, printed, left] = makeReport({ ...data, parts: ['notes'] }).sections[0]?.blocks ?? [];
    expect(printed?.type === 'photos' && printed.photos.length).toBe(2);
    expect(left?.type === 'text' && left.text).toContain('15000 kB');
    expect(photosIn({ ...data, parts: ['links'] })).toEqual([]);
  });

  it('shows a photo by its own digest: one put in its place is not taken for it', () => {
    const data = someReport([notedLink(9)]);
    const html = reportHtml(data, new Map([[PHOTO.sha256, JPEG]]));
    expect(checkReport(data, html)).toEqual([]);
    expect(checkReport(data, html.replace(JPEG, '/9j/AAAB'))).toEqual([{ code: 'words-changed' }]);
    expect(reportHtml(data)).toContain('The photo is missing.');
  });

  it('finds a note that was changed after it was sealed, and takes records from before there were notes', () => {
    const link = notedLink(9);
    link.link.stage = 'handed-over';
    const data = someReport([link]);
    expect(checkReport(data).map(({ code }) => code)).not.toContain('records-changed');
    const changed = structuredClone(data);
    const [note] = changed.links[0]?.notes ?? [];
    if (note) note.words = 'before the shelf';
    expect(checkReport(changed).map(({ code }) => code)).toContain('records-changed');
    const before = reportLink(4, 'handed-over');
    expect(sealOfReport(someReport([{ ...before, notes: [] }])).digest).toBe(
      sealOfReport(someReport([before])).digest,
    );
  });

  it('lists exceptions, stopgaps and what was taken back, each with its reason', () => {
    const odd = structuredClone(links[3] as (typeof links)[0]);
    const [near] = odd.terminations;
    if (near) near.stopgap = 'pressed with a screwdriver';
    odd.reopenings.push({
      id: 'r',
      turn: 9,
      at: '2026-11-09T10:00:00.000Z',
      by: 'Marit',
      reason: 'wrong desk',
    });
    const told = part(someReport([odd]), 'exceptions');
    expect(told).toContain('stopgap, near end | pressed with a screwdriver');
    expect(told).toContain('reopened after handover | wrong desk Marit, 9 Nov 2026');
    expect(part(report, 'exceptions')).toContain('None');
  });

  it('says of each kind of instrument what it alone cannot see', () => {
    expect(part(report, 'instruments')).toMatch(
      /coded mapper +\| pocket mapper \| 5 5 keyed in \| map \| .*split pair/,
    );
  });

  it('says how near each link comes to a limit', () => {
    const long = reportLink(1, 'planned', { lengthM: 92 });
    expect(part(someReport([long]), 'limits')).toMatch(/P1-01 .*does not fit \| 92\.0 m of cable/);
  });

  it('tells a link’s story in the order of its turns, whatever the clocks said', () => {
    const [first] = links.slice(4);
    if (!first) throw new Error('no link');
    const late = structuredClone(first);
    const [test] = late.tests;
    if (test) test.at = '2030-01-01T00:00:00.000Z';
    const names = { connector: (id: string) => id };
    expect(linkStory(late, names).map(({ what }) => what)).toEqual(
      linkStory(first, names).map(({ what }) => what),
    );
  });
});

describe('a report that is checked', () => {
  it('holds as it was made, and its data come out of its page as they went in', () => {
    const page = reportHtml(report);
    const data = dataInPage(page) as ReportData;
    expect(data).toEqual(JSON.parse(JSON.stringify(report)) as ReportData);
    expect(checkReport(data, page)).toEqual([]);
  });

  it('is found out wherever a letter or figure of its page is changed', () => {
    const page = reportHtml(report);
    const shown = page.slice(0, page.indexOf('<script type="application/json"'));
    for (let at = 500; at < shown.length; at += 997) {
      const letter = page[at] === '7' ? '8' : '7';
      const changed = page.slice(0, at) + letter + page.slice(at + 1);
      expect(checkReport(dataInPage(changed) as ReportData, changed).map(({ code }) => code))
        .withContext(`at ${at}`)
        .toContain('words-changed');
    }
  });

  it('finds no data in a page without any, nor in one whose data are cut', () => {
    expect(dataInPage('<html></html>')).toBeNull();
    const page = reportHtml(report);
    expect(dataInPage(page.replace('"formatVersion":1', '"formatVersion":'))).toBeNull();
    expect(
      attachedIn(new TextEncoder().encode('%PDF-1.7 /EmbeddedFile /Length 5 /FlateDecode stream\nab')),
    ).toBeNull();
    expect(attachedIn(new Uint8Array())).toBeNull();
  });
});
