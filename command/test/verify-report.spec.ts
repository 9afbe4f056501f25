import { deflateSync } from 'node:zlib';
import { reportHtml, type ReportData } from '@near-spoke/core/report';
import { reportLink, someReport } from '../../core/test/report/some-report.js';
import { NO_TRACE_FILES } from '../src/outcome.js';
import { spoke } from '../src/spoke.js';

const report = someReport([reportLink(1, 'handed-over'), reportLink(2, 'mended'), reportLink(3, 'planned')]);
const changed = (change: (data: ReportData) => void): ReportData => {
  const data = structuredClone(report) as ReportData;
  change(data);
  return data;
};
const asPdf = (data: ReportData): Buffer => {
  const inside = deflateSync(JSON.stringify(data));
  return Buffer.concat([
    Buffer.from(
      `%PDF-1.3\n7 0 obj\n<< /Type /EmbeddedFile /Length ${inside.length} /Filter /FlateDecode >>\nstream\n`,
    ),
    inside,
    Buffer.from('\nendstream\nendobj\n'),
  ]);
};
const run = (files: Record<string, string | Uint8Array>, ...args: string[]) =>
  spoke(['verify-report', ...args], () => '', {
    ...NO_TRACE_FILES,
    bytes: (path) => Buffer.from(files[path] ?? ''),
  });
const handover = (data: ReportData): string =>
  JSON.stringify({
    format: 'near-spoke/handover',
    formatVersion: 1,
    job: data.job,
    links: data.links.map((link) => ({
      ...link,
      practice: {},
      link: {
        ...link.link,
        jobId: data.job.id,
        position: 1,
        nextStep: '',
        version: 1,
        updatedAt: '2026-11-02T08:00:00.000Z',
        updatedBy: 'Ines',
        near: { ...link.link.near, done: true },
        far: { ...link.link.far, done: true },
      },
    })),
  });

describe('spoke verify-report', () => {
  it('says of a page, a PDF and the bare data that they are as they were made', () => {
    const files = { 'a.html': reportHtml(report), 'a.pdf': asPdf(report), 'a.json': JSON.stringify(report) };
    for (const name of Object.keys(files)) {
      const { status, out, err } = run(files, name);
      expect([status, err]).withContext(name).toEqual([0, '']);
      expect(out).toContain('over 2 links that were handed over');
      expect(out).toContain('Its records give its seal');
    }
    expect(run(files, 'a.html').out).toContain('its words follow from them');
    expect(run(files, 'a.pdf').out).toContain('--seal');
  });

  it('finds a changed record, a changed word, and digits that are not its own', () => {
    const record = changed(({ links }) => {
      const [test] = links[0]?.tests ?? [];
      if (test) test.by = 'Somebody';
    });
    const { status, out } = run({ r: asPdf(record) }, 'r');
    expect(status).toBe(1);
    expect(out).toContain('WRONG  The records do not give the seal');
    expect(out).toContain('P1-01: a reading no longer says what was sealed');
    const page = reportHtml(report).replace('Salt store', 'Salt shore');
    expect(run({ p: page }, 'p').out).toContain(
      'WRONG  What the page shows is not what follows from its records',
    );
    const digits = report.seal.digest.slice(0, 12);
    expect(
      run({ p: asPdf(report) }, 'p', '--seal', `${digits.slice(0, 4)} ${digits.slice(4).toUpperCase()}`)
        .status,
    ).toBe(0);
    expect(run({ p: asPdf(report) }, 'p', '--seal', '00000000').status).toBe(1);
    expect(run({ p: asPdf(report) }, 'p', '--seal', 'xyz').status).toBe(2);
  });

  it('tells against a newer record what changed since, work from tampering', () => {
    const work = changed(({ links }) => {
      const link = links[0];
      if (link) link.link.lengthM = 99;
    });
    const since = run({ r: asPdf(report), n: handover(work) }, 'r', '--against', 'n');
    expect(since.status).toBe(0);
    expect(since.out).toContain('P1-01: length in metres was 31 and is 99.');
    const gone = changed(({ links }) => {
      links[1]?.tests.shift();
    });
    const tampered = run({ r: asPdf(report), n: handover(gone) }, 'r', '--against', 'n');
    expect(tampered.status).toBe(1);
    expect(tampered.out).toContain('WRONG  P1-02: a reading that was sealed is no longer there');
    expect(run({ r: asPdf(report), n: handover(report) }, 'r', '--against', 'n').out).toContain(
      'Nothing changed since.',
    );
    const other = changed((data) => {
      data.job.id = '00000000-0000-4000-8000-0000000000ff';
    });
    expect(run({ r: asPdf(report), n: handover(other) }, 'r', '--against', 'n').status).toBe(2);
    const told = JSON.parse(
      run({ r: asPdf(report), n: handover(gone) }, 'r', '--against', 'n', '--json').out,
    ) as {
      changes: { code: string }[];
    };
    expect(told.changes.map(({ code }) => code)).toEqual(['record-missing']);
  });

  it('does not call forged what another version of the words made, and says what it did not compare', () => {
    const before = reportHtml({ ...report, wording: 0 }).replace(
      'None is a certification',
      'No link is certified',
    );
    const { status, out } = run({ p: before }, 'p');
    expect(status).toBe(0);
    expect(out).toContain('made by another version and are not compared');
  });

  it('refuses with the reason what is no report, is cut or damaged', () => {
    const said = (content: string | Uint8Array): string => {
      const { status, err } = run({ f: content }, 'f');
      expect(status).toBe(2);
      return err;
    };
    expect(said('%PDF-1.7 of something else')).toContain('no data attached');
    expect(said('<html></html>')).toContain('no data inside');
    expect(said('{}')).toContain('format: This is no near-spoke/report.');
    expect(said(asPdf(report).map((byte, at) => (at > 150 && at < 160 ? byte ^ 255 : byte)))).toContain(
      'damaged',
    );
    expect(said(JSON.stringify({ ...report, parts: ['prices'] }))).toContain(
      'parts: These are no parts of a report.',
    );
    expect(run({}).status).toBe(2);
  });
});
