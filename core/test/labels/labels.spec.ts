import fc from 'fast-check';
import { cableRange, labelText, stockProblems, unknownFields, type LabelStock } from '../../src/index.js';
import {
  ADVANCE,
  fitFrom,
  labelFlawWords,
  labelScene,
  placeLabels,
  placesOf,
  printLabels,
  qrModules,
  QUIET_ZONE,
  rangeWords,
  RULER_MM,
  testPage,
  writtenAreas,
  type LabelItem,
  LABEL_STOCKS,
  LABEL_WAYS,
  labelAddress,
  linkCode,
  linkOfCode,
  linkScanned,
} from '../../src/labels.js';

const stock = (id: string): LabelStock => {
  const found = LABEL_STOCKS.find((each) => each.id === id);
  if (!found) throw new Error(`no stock ${id}`);
  return found;
};
const link = {
  id: '3f2b1c9e-0d4a-4e57-9a61-7c1de0a5b214',
  label: 'P1-05',
  near: { hub: 'CR-1', panel: 'P1', port: '05' },
  far: { room: 'Ticket hall', outlet: 'desk 2' },
  lengthM: 41.5,
  cableTypeId: 'cat6-u',
};
const words = { site: 'Pellan Quay', units: 'metric', cableName: () => 'Cat 6' } as const;

/** Where an item's ink begins and ends, from what is known of its letters and modules. */
function inkOf(item: LabelItem): { left: number; right: number; top: number; bottom: number } {
  if (item.type === 'qr')
    return { left: item.x, right: item.x + item.sizeMm, top: item.y, bottom: item.y + item.sizeMm };
  const width = [...item.text].length * item.sizeMm * ADVANCE;
  return {
    left: item.x,
    right: item.x + width,
    top: item.y - item.sizeMm * 0.73,
    bottom: item.y + item.sizeMm * 0.22,
  };
}

describe('what labels are printed on', () => {
  it('lies on its paper, no label over another', () => {
    for (const each of LABEL_STOCKS) expect(stockProblems(each)).withContext(each.id).toEqual([]);
    expect(new Set(LABEL_STOCKS.map(({ id }) => id)).size).toBe(LABEL_STOCKS.length);
  });

  it('is refused by field where its measures cannot be', () => {
    const wrap = stock('a4-wrap-25x38');
    const sheet = wrap.sheet;
    if (!sheet) throw new Error('no sheet');
    const fields = (change: Partial<LabelStock>): string[] =>
      stockProblems({ ...wrap, ...change }).map(({ field }) => field);
    expect(fields({ partMm: 38.1 })).toEqual(['partMm']);
    expect(fields({ partMm: 0 })).toEqual(['partMm']);
    expect(fields({ sheet: { ...sheet, columns: 8 } })).toEqual(['columns']);
    expect(fields({ sheet: { ...sheet, rows: 8 } })).toEqual(['rows']);
    expect(fields({ sheet: { ...sheet, pitchXMm: 20 } })).toEqual(['pitchXMm']);
    expect(fields({ sheet: { ...sheet, pitchYMm: 20 } })).toEqual(['pitchYMm']);
    expect(stockProblems({ ...stock('roll-flag-76x25'), partMm: 80 }).map(({ field }) => field)).toEqual([
      'partMm',
    ]);
  });

  it('goes round a cable as it should: what is written does not meet itself, the clear tail covers it', () => {
    const wrap = stock('a4-wrap-25x38');
    const range = cableRange(wrap);
    if (!range) throw new Error('no range');
    // 12.7 mm of writing once round is 4.04 mm thick; 25.4 mm of tail less 2 mm goes round 7.45 mm, rounded down.
    expect(range.leastMm).toBeCloseTo(4.04, 2);
    expect(range.mostMm).toBeCloseTo(7.45, 2);
    expect(rangeWords(range, 'metric')).toBe('for cables of 4 mm to 7.4 mm');
    expect(cableRange(stock('a4-flat-48x25'))).toBeNull();
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        const d = range.leastMm + share * (range.mostMm - range.leastMm);
        const round = Math.PI * d;
        expect(wrap.partMm).toBeLessThanOrEqual(round + 1e-9);
        expect(wrap.heightMm - wrap.partMm).toBeGreaterThanOrEqual(round + 2 - 1e-9);
      }),
    );
    expect(rangeWords({ leastMm: 0, mostMm: 6.37 }, 'metric')).toBe('for cables up to 6.4 mm');
  });
});

describe('what a label says', () => {
  it('is written line by line for each end, the other end named where it is wanted', () => {
    const [other, space] = LABEL_WAYS;
    if (!other || !space) throw new Error('no ways');
    expect(labelText(link, 'near', other.lines, words)).toEqual(['P1-05', 'Ticket hall, desk 2']);
    expect(labelText(link, 'far', other.lines, words)).toEqual(['P1-05', 'CR-1 P1 port 05']);
    expect(labelText(link, 'near', space.lines, words)).toEqual(labelText(link, 'far', space.lines, words));
    expect(labelText(link, 'near', space.lines, words)).toEqual(['CR-1.P1-05']);
    const all = { near: ['{site} {cable} {length}', ' '], far: [] };
    expect(labelText(link, 'near', all, words)).toEqual(['Pellan Quay Cat 6 41.5 m']);
  });

  it('names a field that nobody knows, and leaves it as it stands', () => {
    expect(unknownFields(['{label} {prot}', '{}'])).toEqual([
      { line: '{label} {prot}', field: 'prot' },
      { line: '{}', field: '' },
    ]);
    expect(labelText(link, 'near', { near: ['{prot}'], far: [] }, words)).toEqual(['{prot}']);
    for (const { lines } of LABEL_WAYS) expect(unknownFields([...lines.near, ...lines.far])).toEqual([]);
  });

  it('names its link by 22 characters that come back as the same link', () => {
    fc.assert(
      fc.property(fc.uuid(), (id) => {
        expect(linkCode(id)).toMatch(/^[\w-]{22}$/);
        expect(linkCode(id)).toBe(Buffer.from(id.replaceAll('-', ''), 'hex').toString('base64url'));
        expect(linkOfCode(linkCode(id))).toBe(id);
        expect(linkScanned(`${labelAddress('http://127.0.0.1:8080', id)}\n`)).toBe(id);
      }),
    );
    expect(linkScanned('http://127.0.0.1:8080/jobs')).toBeNull();
    expect(linkOfCode('A'.repeat(21))).toBeNull();
    expect(linkOfCode(`${'A'.repeat(21)}B`)).toBeNull();
    expect(() => linkCode('P1-05')).toThrowError(RangeError);
  });
});

describe('a label laid out', () => {
  it('keeps all ink within what is written on, a printer’s margin free, on every stock', () => {
    const line = fc
      .string({ minLength: 1, maxLength: 24, unit: 'grapheme-ascii' })
      .filter((s) => s.trim() !== '');
    fc.assert(
      fc.property(
        fc.constantFrom(...LABEL_STOCKS),
        fc.array(line, { minLength: 1, maxLength: 4 }),
        fc.boolean(),
        (on, lines, qr) => {
          const { items, flaws } = labelScene(on, {
            lines,
            qr: qr ? labelAddress('http://site:8080', link.id) : null,
          });
          const areas = writtenAreas(on);
          const inks = items.map(inkOf);
          for (const ink of inks)
            expect(
              areas.some(
                (area) =>
                  ink.left >= area.x &&
                  ink.right <= area.x + area.width - 0.9 &&
                  ink.top >= area.y - 1e-9 &&
                  ink.bottom <= area.y + area.height + 1e-9,
              ),
            ).toBeTrue();
          // No two lines over each other, no line in the code's quiet zone.
          inks.forEach((a, i) =>
            inks.slice(i + 1).forEach((b) => {
              const apart = a.right <= b.left + 1e-9 || b.right <= a.left + 1e-9;
              const over = a.bottom <= b.top || b.bottom <= a.top;
              expect(apart || over).toBeTrue();
            }),
          );
          const texts = items.filter((item) => item.type === 'text').map(({ text }) => text);
          const refused = flaws.some(({ code }) => code === 'too-long' || code === 'too-many-lines');
          // All words are there, in their order, unless it is said that they are not.
          const said = texts.join(' ').replace(/\s+/g, ' ');
          if (!refused) expect(said).toContain(lines.join(' ').trim().replace(/\s+/g, ' '));
          else expect(said).not.toContain(lines.join(' ').trim().replace(/\s+/g, ' '));
        },
      ),
      { numRuns: 400 },
    );
  });

  it('breaks what is long between its words where it can be read larger so', () => {
    const { items, flaws } = labelScene(stock('a4-wrap-25x38'), {
      lines: ['P1-05', 'Ticket hall, departures 1'],
      qr: null,
    });
    expect(flaws).toEqual([]);
    expect(items.map((item) => (item.type === 'text' ? item.text : ''))).toEqual([
      'P1-05',
      'Ticket hall,',
      'departures 1',
    ]);
    const whole = labelScene(stock('a4-flat-48x25'), { lines: ['P1-05', 'desk 2'], qr: null });
    expect(whole.items.length).toBe(2);
  });

  it('keeps the label itself where what follows it does not fit', () => {
    const { items, flaws } = labelScene(stock('strip-12'), {
      lines: ['P1-05', 'an-outlet-of-many-letters'],
      qr: null,
    });
    expect(items.map((item) => (item.type === 'text' ? item.text : ''))).toEqual(['P1-05']);
    expect(flaws.length).toBe(1);
  });

  it('says what does not fit, and how much would', () => {
    const flaws = (on: string, lines: string[], qr: string | null = null) =>
      labelScene(stock(on), { lines, qr }).flaws.map(labelFlawWords);
    expect(flaws('strip-12', ['P1-05', 'an-outlet-of-many-letters'])).toEqual([
      '“an-outlet-of-many-letters” has 25 characters, a row of this label holds 13: shorten it, or take a wider label.',
    ]);
    expect(flaws('roll-flat-50x12', ['a', 'b', 'c', 'd', 'e', 'f'])[0]).toContain('6 lines are wanted');
    expect(flaws('strip-12', ['P1-05'], labelAddress('https://cabling.example', link.id))[0]).toContain(
      'A QR that can be read needs',
    );
  });

  it('has a QR of modules that a reader takes, its quiet zone kept', () => {
    const text = labelAddress('http://127.0.0.1:8080', link.id);
    const { items, flaws } = labelScene(stock('a4-flat-48x25'), { lines: ['P1-05'], qr: text });
    expect(flaws).toEqual([]);
    const qr = items.find((item) => item.type === 'qr');
    const modules = qrModules(text).length + 2 * QUIET_ZONE;
    expect((qr?.sizeMm ?? 0) / modules).toBeGreaterThanOrEqual(0.33);
  });

  it('says the same on both sides of a flag, and over and over round a wrap-around', () => {
    const flag = labelScene(stock('roll-flag-76x25'), { lines: ['P1-05'], qr: null });
    expect(flag.items.map(({ x }) => x)).toEqual([1, 51.8 - 0]);
    const wrap = labelScene(stock('letter-wrap-1x2'), { lines: ['P1-05-AB/12-3'], qr: null });
    expect(wrap.items.length).toBeGreaterThan(2);
    expect(new Set(wrap.items.map((item) => (item.type === 'text' ? item.text : '')))).toEqual(
      new Set(['P1-05-AB/12-3']),
    );
  });
});

describe('labels on their sheets', () => {
  it('are all there once, in order, and never on a place that is used up', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LABEL_STOCKS),
        fc.integer({ min: 0, max: 300 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (on, count, share) => {
          const places = placesOf(on).length;
          const skip = Math.floor(share * places);
          const pages = placeLabels(on, count, skip);
          expect(pages.flatMap(({ labels }) => labels.map(({ index }) => index))).toEqual(
            Array.from({ length: count }, (_, at) => at),
          );
          expect(pages.length).toBe(count === 0 ? 0 : Math.ceil((count + skip) / places));
          const first = pages[0]?.labels[0];
          if (first)
            expect({ xMm: first.xMm, yMm: first.yMm }).toEqual(placesOf(on)[skip] ?? { xMm: -1, yMm: -1 });
        },
      ),
    );
    expect(() => placeLabels(stock('a4-flat-48x25'), 1, 44)).toThrowError(/44 places/);
  });

  it('come out where they should on a printer that is off, once it was measured', () => {
    // A printer that draws everything 1 % small and 0.8 mm to the right: its rulers measure 99 mm.
    const fit = fitFrom({ rulerXMm: 99, rulerYMm: 100, offXMm: 0.8, offYMm: -0.3 });
    expect(fit).toEqual({ scaleX: 100 / 99, scaleY: 1, offsetXMm: -0.8, offsetYMm: 0.3 });
    const [page] = printLabels(stock('a4-flat-48x25'), [{ lines: ['A'], qr: null }], { fit }).pages;
    expect(page?.svg).toContain('translate(-0.8 0.3) scale(1.01010 1.00000)');
  });

  it('have a test page with every edge and two rulers where the paper is large enough', () => {
    const page = testPage(stock('a4-wrap-25x38'));
    expect(page.svg.match(/<rect/g)?.length).toBe(49 * 2);
    expect(page.svg).toContain(`h${RULER_MM}`);
    expect(testPage(stock('roll-flat-50x12')).svg).not.toContain(`h${RULER_MM}`);
  });
});
