import fc from 'fast-check';
import { daysNamed, understandSearch } from '../../src/search/query.js';

const asking = { today: '2026-11-29', people: ['Ines Varga', 'Tobi Lund', 'Marit Osei'] };
const asked = (text: string) => understandSearch(text, asking).query;

describe('what is looked for', () => {
  it('is understood as a person would ask for it', () => {
    expect(asked('who made 3rd floor').words).toEqual(['3rd', 'floor']);
    expect(asked('made by Tobi').people).toEqual([{ name: 'Tobi Lund', did: 'made' }]);
    expect(asked('tested by ines varga last month')).toEqual(
      jasmine.objectContaining({
        people: [{ name: 'Ines Varga', did: 'tested' }],
        from: '2026-10-01',
        until: '2026-11-01',
        words: [],
      }),
    );
    expect(asked('all T568A ends')).toEqual(jasmine.objectContaining({ scheme: 'T568A', words: [] }));
    expect(asked('proved with a mapper only')).toEqual(
      jasmine.objectContaining({
        stages: ['proved', 'handed-over'],
        instruments: ['coded-mapper', 'coded-mapper-crosstalk'],
        only: true,
        words: [],
      }),
    );
    expect(asked('split pairs since 2026-11-02').faults).toEqual(['split']);
    expect(asked('split pairs since 2026-11-02').from).toBe('2026-11-02');
    expect(asked('split pairs since 2026-11-02').until).toBeNull();
    expect(asked('handed over before november').until).toBe('2026-11-01');
    expect(asked('P1-05 desk').words).toEqual(['P1-05', 'desk']);
  });

  it('is taken as it stands where it is in quotes', () => {
    expect(asked('"open" "Tobi"')).toEqual(
      jasmine.objectContaining({ words: ['open', 'Tobi'], faults: [], people: [] }),
    );
  });

  it('says what it was taken for', () => {
    const { understood } = understandSearch('made by Tobi last week open', asking);
    expect(understood.map(({ as }) => as)).toEqual([
      'made by Tobi Lund',
      'from 2026-11-16 to 2026-11-22',
      'had open',
    ]);
  });

  it('loses no word: each is understood, small, or looked for', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ minLength: 1, maxLength: 8 }).filter((s) => /^[b-z]{4,}$/.test(s)),
          { maxLength: 5 },
        ),
        (words) => {
          const { query, understood } = understandSearch(words.join(' '), asking);
          const said = [...query.words, ...understood.map(({ text }) => text)].join(' ');
          for (const word of words.filter(
            (each) =>
              ![
                'that',
                'them',
                'what',
                'with',
                'were',
                'show',
                'list',
                'find',
                'from',
                'have',
                'link',
                'made',
              ].includes(each),
          ))
            expect(said).toContain(word);
        },
      ),
    );
  });

  it('knows days, weeks, months and years by name', () => {
    const named = (text: string) => daysNamed(text, asking.today);
    expect(named('today')).toEqual(['2026-11-29', '2026-11-30']);
    // 29 November 2026 is a Sunday: its week began on the 23rd.
    expect(named('this week')).toEqual(['2026-11-23', '2026-11-30']);
    expect(named('last week')).toEqual(['2026-11-16', '2026-11-23']);
    expect(named('december')).toEqual(['2025-12-01', '2026-01-01']);
    expect(named('november')).toEqual(['2026-11-01', '2026-12-01']);
    expect(named('march 2025')).toEqual(['2025-03-01', '2025-04-01']);
    expect(named('2026-02')).toEqual(['2026-02-01', '2026-03-01']);
    expect(daysNamed('last month', '2026-01-15')).toEqual(['2025-12-01', '2026-01-01']);
    expect(named('2026-13')).toBeNull();
    expect(named('2026-02-31')).toBeNull();
    expect(named('desk')).toBeNull();
  });
});
