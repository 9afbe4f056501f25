import { observe, type InstrumentClass } from '@near-spoke/core';
import fc from 'fast-check';
import {
  decodeReading,
  encodeReading,
  endpoints,
  fieldErrors,
  isTooDeep,
  label,
  line,
  newJob,
  newTermination,
  ProtocolError,
  reading,
  roles,
  type Endpoint,
} from '../src/index.js';
import { openApiDocument } from '../src/openapi.js';
import { expectation, linkWith, PAIR_BY_PAIR, screened, wired } from '../../core/test/links.js';

const CLASSES: InstrumentClass[] = [
  'lamp-pairs',
  'lamps-one-return',
  'stepping-lamps',
  'coded-mapper',
  'coded-mapper-crosstalk',
  'pair-reflectometer',
  'eye',
];

describe('what lies in itself', () => {
  const nested = (deep: number): unknown => JSON.parse(`${'['.repeat(deep)}1${']'.repeat(deep)}`);

  it('is too deep where no shape goes, however deep that is', () => {
    expect([1, 20, 64].map((deep) => isTooDeep(nested(deep)))).toEqual([false, false, false]);
    expect([66, 1000, 200_000].map((deep) => isTooDeep(nested(deep)))).toEqual([true, true, true]);
  });
});

describe('names', () => {
  it('keep markup as text and lose only outer spaces', () => {
    expect(line(80).parse('  <b>desk</b> & co ')).toBe('<b>desk</b> & co');
  });

  for (const [what, text] of [
    ['line breaks', 'a\nb'],
    ['a null', 'a\u0000b'],
    ['direction overrides', 'a\u202eb'],
    ['nothing', '   '],
  ]) {
    it(`refuse ${what}`, () => {
      expect(line(80).safeParse(text).success).toBeFalse();
    });
  }

  it('of links begin with a letter or figure', () => {
    expect(label.safeParse('P1-05').success).toBeTrue();
    expect(label.safeParse('Käse 3').success).toBeTrue();
    expect(label.safeParse('=1+1').success).toBeFalse();
  });
});

describe('input', () => {
  it('is told field by field, with the path as people write it', () => {
    const result = newJob.safeParse({
      id: 'x',
      site: '',
      scheme: 'T568C',
      units: 'metric',
      hub: 'CR',
      title: 'a',
      extra: 1,
    });
    const errors = fieldErrors(result.error as NonNullable<typeof result.error>);
    expect(errors.map((e) => e.path).sort()).toEqual(['body', 'id', 'scheme', 'site']);
    expect(errors.find((e) => e.path === 'body')?.message).toBe('Unknown field extra: leave it out.');
  });

  it('refuses a spoiled end that cost no connector', () => {
    const attempt = {
      id: '00000000-0000-4000-8000-000000000001',
      side: 'far',
      connectorTypeId: 'x',
      outcome: 'spoiled',
      connectorsSpoiled: 0,
    };
    expect(newTermination.safeParse(attempt).success).toBeFalse();
    expect(newTermination.safeParse({ ...attempt, connectorsSpoiled: 1 }).success).toBeTrue();
  });

  it('refuses a reading of an unknown instrument or with unknown fields', () => {
    expect(reading.safeParse({ instrument: 'crystal-ball', lamps: {} }).success).toBeFalse();
    expect(reading.safeParse({ instrument: 'lamp-pairs', lamps: {}, mood: 'good' }).success).toBeFalse();
    expect(reading.safeParse({ instrument: 'coded-mapper', arrivals: { '<b>': [] } }).success).toBeFalse();
  });
});

describe('the instrument protocol', () => {
  const splitEnd = wired(...PAIR_BY_PAIR);
  const links = [
    linkWith(expectation()),
    linkWith(expectation(), { near: splitEnd, far: splitEnd, breaks: [{ conductor: 'BN', atM: 12.3 }] }),
    linkWith(screened(), { joins: [{ conductors: ['SCREEN', 'OG'], atM: 4 }] }),
    linkWith(expectation(), { near: { ...linkWith(expectation()).near, 4: null } }),
    linkWith(expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f' }), {
      disturbances: [{ atM: 9, lengthM: 1, impedance: 'low' }],
    }),
  ];

  for (const instrument of CLASSES) {
    it(`carries a ${instrument} reading over the wire unchanged`, () => {
      for (const link of links) {
        const taken = observe(link, instrument, { end: 'near' });
        expect(decodeReading(encodeReading(taken))).toEqual(taken);
      }
    });
  }

  it('never makes a reading of garbage: it is a ProtocolError or a valid reading', () => {
    const word = fc.constantFrom(
      'READING',
      'ARRIVES',
      'JOINED',
      'SPLITS',
      'LAMP',
      'ECHO',
      'COLOUR',
      'empty',
      'coded-mapper',
      'eye',
      'near',
      '1',
      '2',
      '-',
      '<x>',
      '1-2',
      'lit',
      'open',
      'NaN',
      '',
    );
    const lines = fc.array(
      fc.array(word, { maxLength: 5 }).map((words) => words.join(' ')),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(lines, (text) => {
        try {
          expect(reading.safeParse(decodeReading(text)).success).toBeTrue();
        } catch (error) {
          expect(error).toBeInstanceOf(ProtocolError);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('refuses a contact answered twice', () => {
    expect(() => decodeReading(['READING coded-mapper near', 'ARRIVES 1 1', 'ARRIVES 1 2'])).toThrowError(
      ProtocolError,
      /makes no sense/,
    );
  });
});

describe('the endpoint table', () => {
  const all = Object.entries(endpoints) as [string, Endpoint][];

  it('has one entry per method and path, all under /api, each with somebody who may use it', () => {
    const keys = all.map(([, e]) => `${e.method} ${e.path}`);
    expect(new Set(keys).size).toBe(keys.length);
    for (const [id, endpoint] of all) {
      expect(endpoint.path.startsWith('/api/')).withContext(id).toBeTrue();
      if (endpoint.access !== 'anyone') expect(endpoint.access.length).withContext(id).toBeGreaterThan(0);
    }
  });

  it('lets a viewer change nothing but their own sessions, passphrase, crews and practice', () => {
    const changing = all.filter(
      ([, e]) => e.method !== 'get' && e.access !== 'anyone' && e.access.includes('viewer'),
    );
    expect(changing.map(([id]) => id)).toEqual([
      'signOut',
      'endOwnSession',
      'changeOwnPassphrase',
      'workInCrew',
      'joinCrew',
      'answerDrill',
    ]);
    for (const [id, { path }] of changing)
      expect(/^\/api\/(session|practice-room\/answers)/.test(path))
        .withContext(id)
        .toBeTrue();
  });

  it('is described whole in OpenAPI, with every role that exists known to it', () => {
    const document = openApiDocument('1.2.3') as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    const described = Object.values(document.paths).flatMap((path) =>
      Object.values(path).map((o) => o.operationId),
    );
    expect(described.sort()).toEqual(all.map(([id]) => id).sort());
    expect(document.openapi).toBe('3.1.0');
    expect(roles.length).toBe(3);
  });
});
