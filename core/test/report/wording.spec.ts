import { digestOfText, REPORT_WORDING, reportHtml } from '../../src/report.js';
import { JPEG, notedLink, PHOTO, reportLink, someReport } from './some-report.js';

/**
 * What the words of each wording come to for one report. When this fails the words or drawings of reports have changed: raise
 * `REPORT_WORDING` (core/src/report/make-report.ts) and put the new digest below it, so that reports made before are
 * not taken for forged.
 */
const WORDINGS: Readonly<Record<number, string>> = {
  7: '223872fcf1ea02d0b3f8b2a573e4c9f9f9a7d4c84711e4cd57681a9d388aae4f',
  6: '223872fcf1ea02d0b3f8b2a573e4c9f9f9a7d4c84711e4cd57681a9d388aae4f',
  5: '223872fcf1ea02d0b3f8b2a573e4c9f9f9a7d4c84711e4cd57681a9d388aae4f',
  4: '6e9cd159696a83390b5718bc83032a06ee9f40aca1f8c86af73e846e5361774f',
  2: 'd70c36d7a52c81d08269bdb311a04d5a2028f494cf1cff31e67dd200877783e7',
  3: '465e9e854dd96c75f2881507e1db19714e5547be11475e2817d544ad41acf859',
  1: '672b9579cd3d60d3769792d8df7a2d5dfcfbc12b7f4dbe8da430ce8060517492',
};

describe('the words of reports', () => {
  it('are those of their number', () => {
    const courses = ['planned', 'made', 'proved', 'handed-over', 'mended', 'failed'] as const;
    const links = [...courses.map((course, n) => reportLink(n + 1, course)), notedLink(9)];
    const made = someReport(links);
    // Digests follow from every digit of a belief: what is said of it is what counts here.
    const digest = '0'.repeat(64);
    const sealed = made.seal.links.map((link) => ({ ...link, digest }));
    const data = { ...made, seal: { ...made.seal, digest, links: sealed } };
    const words =
      reportHtml(data, new Map([[PHOTO.sha256, JPEG]])).split('<script type="application/json"')[0] ?? '';
    expect(digestOfText(words)).toBe(WORDINGS[REPORT_WORDING] ?? 'none');
  });
});
