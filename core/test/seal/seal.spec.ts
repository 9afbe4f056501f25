import fc from 'fast-check';
import { createHash } from 'node:crypto';
import {
  canonicalJson,
  changesSince,
  digestInGroups,
  digestOfText,
  isOrdinary,
  NotJson,
  sealable,
  sealChangeWords,
  sealHolds,
  sealJob,
  sealLink,
  type SealableLink,
} from '../../src/report.js';

const job = { id: 'j', site: 'Pellan Quay', title: 'Ticket hall', hub: 'CR-1', scheme: 'T568B' };

const detail = (label: string) => ({
  link: {
    id: `id-${label}`,
    label,
    near: { hub: 'CR-1', panel: 'P1', port: '5', connectorId: 'keystone-jack' },
    far: { room: 'Hall', outlet: 'desk 2', connectorId: 'plug-8p8c' },
    cableTypeId: 'cat6',
    lengthM: 41.5,
    route: [{ name: 'tray', lengthM: 40 }],
    carries: { data: '1000BASE-T' },
  },
  scheme: 'T568B',
  terminations: [
    { id: 'a', turn: 1, at: '2026-11-02T08:00:00.000Z', by: 'Tobi', side: 'near', outcome: 'good' },
    { id: 'b', turn: 2, at: '2026-11-02T08:20:00.000Z', by: 'Tobi', side: 'far', outcome: 'good' },
  ],
  cableWork: [
    { id: 'w', turn: 2.5, at: '2026-11-02T08:25:00.000Z', by: 'Tobi', kind: 'mended', atM: 3, note: '' },
  ],
  tests: [
    {
      id: 'c',
      turn: 3,
      at: '2026-11-02T08:30:00.000Z',
      by: 'Ines',
      reading: { instrument: 'coded-mapper', map: { '1': '1', '2': '2' } },
      diagnosis: { result: 'pass' },
    },
  ],
  handovers: [{ id: 'd', turn: 4, at: '2026-11-02T09:00:00.000Z', by: 'Ines', testId: 'c' }],
  reopenings: [],
});
const content = (labels: readonly string[]): SealableLink[] => labels.map((each) => sealable(detail(each)));
const sealOf = (links: readonly SealableLink[]) => sealJob(job, links.map(sealLink));

describe('the one text of a value', () => {
  it('is that of RFC 8785: keys by code unit, numbers as ECMAScript writes them', () => {
    expect(
      canonicalJson({
        numbers: [333333333.33333329, 1e30, 4.5, 2e-3, 0.000000000000000000000000001, -0],
        string: '\u20ac$\u000F\u000aA\'\u0042\u0022\u005c\\"/',
        literals: [null, true, false],
      }),
    ).toBe(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27,0],"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
    expect(canonicalJson({ '\ud83d\ude00': 1, '\ufb33': 2, '1': 3, '\r': 4 })).toBe(
      '{"\\r":4,"1":3,"\ud83d\ude00":1,"\ufb33":2}',
    );
  });

  it('does not depend on the order in which a value was put together', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (value) => {
        const turned = Object.fromEntries(Object.entries(value).reverse());
        expect(canonicalJson(turned)).toBe(canonicalJson(value));
        expect(canonicalJson(JSON.parse(canonicalJson(value)))).toBe(canonicalJson(value));
      }),
    );
  });

  it('refuses what JSON cannot hold, with its place', () => {
    expect(() => canonicalJson({ a: [1, { b: NaN }] })).toThrowMatching(
      (error) => error instanceof NotJson && error.path === 'a[1].b',
    );
  });
});

describe('a digest', () => {
  it('is SHA-256, as another library has it', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(digestOfText(text)).toBe(createHash('sha256').update(text, 'utf8').digest('hex'));
      }),
    );
    expect(digestInGroups(digestOfText('abc'), 3)).toBe('ba78 16bf 8f01');
  });
});

/** Every place in a value where something stands, as a way to change it. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== 'object' || value === null) return [path];
  return Object.entries(value).flatMap(([key, inner]) =>
    places(inner, [...path, Array.isArray(value) ? Number(key) : key]),
  );
}

function changedAt(value: unknown, path: readonly (string | number)[]): unknown {
  const [key, ...rest] = path;
  if (key === undefined)
    return typeof value === 'number'
      ? value + 1
      : typeof value === 'boolean'
        ? !value
        : `${value as string}x`;
  if (Array.isArray(value))
    return value.map((each: unknown, n) => (n === key ? changedAt(each, rest) : each));
  const fields = value as Record<string, unknown>;
  return { ...fields, [key]: changedAt(fields[key], rest) };
}

describe('a seal over handed-over links', () => {
  const links = content(['P1-05', 'P1-06', 'P1-07']);
  const seal = sealOf(links);

  it('is the same in any order of the links, and holds together', () => {
    expect(sealOf([...links].reverse()).digest).toBe(seal.digest);
    expect(sealHolds(seal)).toBe(true);
    expect(changesSince(seal, sealOf(links))).toEqual([]);
  });

  it('changes with every single value of every record and plan, and the change is told by its link', () => {
    const all = links.flatMap((link, n) =>
      [...places(link.plan, ['plan']), ...places(link.records, ['records'])].map((path) => ({ n, path })),
    );
    expect(all.length).toBeGreaterThan(90);
    for (const { n, path } of all) {
      const now = links.map((link, at) => (at === n ? (changedAt(link, path) as SealableLink) : link));
      expect(sealOf(now).digest).withContext(path.join('.')).not.toBe(seal.digest);
      const changes = changesSince(seal, sealOf(now));
      expect(changes.length).withContext(path.join('.')).toBeGreaterThan(0);
      for (const change of changes) expect(sealChangeWords(change)).toContain(links[n]?.label ?? '?');
    }
  });

  it('tells work since from what was reached past the application', () => {
    const [first, ...others] = links;
    if (!first) throw new Error('no link');
    const later = {
      kind: 'test',
      record: { id: 'e', turn: 5, at: '2026-11-09T10:11:00.000Z', by: 'Marit' },
    } as const;
    const gone = { ...first, records: [...first.records.slice(1), later] };
    const now = sealJob({ ...job, title: 'Hall' }, [gone, ...others.slice(1)].map(sealLink));
    const changes = changesSince(seal, now);
    expect(changes.map(({ code }) => code)).toEqual([
      'job-changed',
      'record-missing',
      'record-added',
      'link-gone',
    ]);
    expect(changes.map(isOrdinary)).toEqual([true, false, true, false]);
    expect(changes.map(sealChangeWords)).toEqual([
      'The job’s title was Ticket hall and is Hall.',
      'P1-05: a termination that was sealed is no longer there (record a).',
      'P1-05: a reading was added by Marit, 2026-11-09 10:11 UTC.',
      'P1-06 is no longer there.',
    ]);
  });

  it('does not hold when its own list was changed', () => {
    const [first, ...others] = seal.links;
    if (!first) throw new Error('no link');
    expect(sealHolds({ ...seal, links: [{ ...first, label: 'P1-99' }, ...others] })).toBe(false);
    expect(sealHolds({ ...seal, links: others })).toBe(false);
    expect(sealHolds({ ...seal, job: { ...job, hub: 'CR-2' } })).toBe(false);
  });
});
