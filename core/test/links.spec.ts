import {
  checkReading,
  endDone,
  observe,
  stageOf,
  standingOf,
  type Diagnosis,
  firstTestOf,
  proofOf,
  type LinkHistory,
  type Reading,
} from '../src/index.js';
import { expectation, linkWith, screened, T568A, wired } from './links.js';

const plain = expectation();
const sound = linkWith(plain);
const mixed = linkWith(plain, { far: wired(...T568A) });

const at = (minute: number): string => new Date(Date.UTC(2026, 10, 2, 8, minute)).toISOString();
const empty: LinkHistory = { terminations: [], cableWork: [], tests: [], handovers: [], reopenings: [] };
const done = (side: 'near' | 'far', minute: number, outcome: 'good' | 'spoiled' = 'good') => ({
  id: `${side}${minute}`,
  turn: minute,
  at: at(minute),
  side,
  outcome,
  corrects: null,
});
const read = (reading: Reading, minute: number) => ({
  id: `t${minute}`,
  turn: minute,
  at: at(minute),
  reading,
  corrects: null,
});
const bothEnds = [done('near', 1), done('far', 2)];
const stand = (history: Partial<LinkHistory>) => standingOf(plain, { ...empty, ...history });

describe('where a link stands', () => {
  it('goes from planned through one end and both ends to proved and handed over', () => {
    const tests = [read(observe(sound, 'coded-mapper'), 3)];
    expect(stand({}).stage).toBe('planned');
    expect(stand({ terminations: [done('near', 1)] })).toEqual({
      stage: 'one-end',
      words: 'far end waits',
      nextStep: 'Terminate the far end',
      diagnosis: null,
      nearDone: true,
      farDone: false,
    });
    expect(stand({ terminations: bothEnds }).stage).toBe('both-ends');
    expect(stand({ terminations: bothEnds, tests }).stage).toBe('proved');
    expect(stand({ terminations: bothEnds, tests, handovers: [{ turn: 4, at: at(4) }] }).stage).toBe(
      'handed-over',
    );
  });

  it('is wrong with the fault in words, and the next look as the next step', () => {
    const standing = stand({ terminations: bothEnds, tests: [read(observe(mixed, 'coded-mapper'), 3)] });
    expect([standing.stage, standing.words, standing.nextStep]).toEqual([
      'failed',
      'One end is T568A, the other T568B',
      "Read the far plug's colours",
    ]);
  });

  it('is not proved by lit lamps', () => {
    const standing = stand({ terminations: bothEnds, tests: [read(observe(sound, 'lamp-pairs'), 3)] });
    expect([standing.stage, standing.words]).toEqual(['both-ends', 'loops only, map not proved']);
  });

  it('waits for a retest after a repair, and opens a handed-over link again after work', () => {
    const tests = [read(observe(mixed, 'coded-mapper'), 3)];
    expect(stand({ terminations: [...bothEnds, done('far', 4)], tests }).stage).toBe('both-ends');
    const proved = [read(observe(sound, 'coded-mapper'), 3)];
    const reworked = {
      terminations: [...bothEnds, done('near', 9)],
      tests: proved,
      handovers: [{ turn: 5, at: at(5) }],
    };
    expect(stand(reworked).stage).toBe('both-ends');
  });

  it('has an open end after a spoiled try, and two after the cable was replaced', () => {
    expect(endDone({ ...empty, terminations: [...bothEnds, done('far', 5, 'spoiled')] }, 'far')).toBeFalse();
    const replaced: LinkHistory = {
      ...empty,
      terminations: bothEnds,
      cableWork: [{ turn: 6, at: at(6), kind: 'replaced' }],
    };
    expect([endDone(replaced, 'near'), endDone(replaced, 'far')]).toEqual([false, false]);
    const mended: LinkHistory = { ...replaced, cableWork: [{ turn: 6, at: at(6), kind: 'mended' }] };
    expect(endDone(mended, 'near')).toBeTrue();
  });

  it('goes by turns, whatever the clocks of those who worked and tested say', () => {
    const tested = { ...read(observe(sound, 'coded-mapper'), 3), at: at(59) };
    const redone = { ...done('far', 4), at: at(0) };
    const after = stand({ terminations: [...bothEnds, redone], tests: [tested] });
    expect(after.stage).toBe('both-ends');
    const before = stand({
      terminations: [...bothEnds, { ...redone, turn: 3 }],
      tests: [{ ...tested, turn: 4, at: at(0) }],
    });
    expect(before.stage).toBe('proved');
    const handed = { turn: 5, at: at(0) };
    expect(
      stand({ terminations: bothEnds, tests: [tested], handovers: [{ ...handed, turn: 4 }] }).stage,
    ).toBe('handed-over');
    expect(
      stand({ terminations: bothEnds, tests: [{ ...tested, turn: 9 }], handovers: [handed] }).stage,
    ).toBe('proved');
  });

  it('rests its proof on the newest map since the last work that nobody took back', () => {
    const map = read(observe(sound, 'coded-mapper'), 3);
    const looked = read({ instrument: 'eye', end: 'far', colours: {} }, 5);
    const history = { ...empty, terminations: bothEnds, tests: [map, looked] };
    expect(proofOf(history)?.id).toBe('t3');
    expect(firstTestOf(history.tests)?.id).toBe('t3');
    const again = { ...read(observe(sound, 'coded-mapper'), 6), corrects: 't3' };
    expect(proofOf({ ...history, tests: [map, looked, again] })?.id).toBe('t6');
    expect(firstTestOf([map, looked, again])?.id).toBe('t6');
    expect(proofOf({ ...history, terminations: [...bothEnds, done('near', 9)] })).toBeNull();
  });

  it('calls a link proved only by a map, whatever else passed', () => {
    const diagnosis = { result: 'pass', proves: 'loops' } as Pick<Diagnosis, 'result' | 'proves'>;
    expect(stageOf({ nearDone: true, farDone: true, diagnosis, handedOver: true })).toBe('both-ends');
  });
});

describe('checking a reading against its link', () => {
  const map = (change: Record<string, string[]>): Reading => {
    const reading = observe(sound, 'coded-mapper');
    return reading.instrument === 'coded-mapper'
      ? { ...reading, arrivals: { ...reading.arrivals, ...change } }
      : reading;
  };

  it('accepts what every instrument reads on a link of its kind', () => {
    for (const expected of [
      plain,
      screened(),
      expectation({ cable: 'rg6', near: 'coax-f', far: 'coax-f' }),
    ]) {
      for (const instrument of [
        'coded-mapper-crosstalk',
        'stepping-lamps',
        'lamp-pairs',
        'pair-reflectometer',
        'eye',
      ] as const) {
        expect(checkReading(expected, observe(linkWith(expected), instrument))).toEqual([]);
      }
    }
  });

  it('takes two near contacts at one far contact for a short, not for an error', () => {
    expect(checkReading(plain, map({ 1: ['1'], 2: ['1'] }))).toEqual([]);
  });

  it('names a contact the link does not have', () => {
    const [problem] = checkReading(plain, map({ 1: ['9'] }));
    expect(problem).toEqual({
      path: ['arrivals', '1'],
      message: 'This link has no contact 9. It has 1, 2, 3, 4, 5, 6, 7, 8.',
    });
    expect(checkReading(plain, map({ S: ['S'] }))[0]?.path).toEqual(['arrivals', 'S']);
  });

  it('names a contact that is missing or said twice', () => {
    const reading = map({});
    const { 8: _, ...seven } = (reading as Extract<Reading, { joins: unknown }>).arrivals;
    expect(checkReading(plain, { ...reading, arrivals: seven } as Reading)[0]?.message).toContain(
      'Nothing is said of 8',
    );
    expect(checkReading(plain, map({ 1: ['1', '1'] }))[0]?.message).toContain('named twice');
  });

  it('refuses splits from an instrument that cannot see them, and colours the cable does not have', () => {
    expect(checkReading(plain, { ...map({}), splits: [] } as unknown as Reading)[0]?.path).toEqual([
      'splits',
    ]);
    const colours = observe(sound, 'eye', { end: 'far' }) as Extract<Reading, { instrument: 'eye' }>;
    expect(
      checkReading(plain, { ...colours, colours: { ...colours.colours, 1: 'RD' } })[0]?.message,
    ).toContain('no RD conductor');
  });

  it('refuses earths that contradict the map: a screen earthed at both ends is closed through earth', () => {
    const meant = screened();
    const open = observe(linkWith(meant, { far: { ...linkWith(meant).far, S: null } }), 'coded-mapper');
    expect(checkReading(meant, { ...open, screenEarthed: 'one-end' } as Reading)).toEqual([]);
    const [problem] = checkReading(meant, { ...open, screenEarthed: 'both-ends' } as Reading);
    expect(problem?.path).toEqual(['screenEarthed']);
    expect(problem?.message).toContain('closed through earth');
  });

  it('refuses a contact that is empty and not, or is not answered for', () => {
    const look = observe(linkWith(plain, { far: { ...sound.far, 4: null } }), 'eye', { end: 'far' });
    expect(checkReading(plain, look)).toEqual([]);
    const said = (empty: string[]): string[] =>
      checkReading(plain, { ...look, empty } as Reading).map(({ path, message }) => `${path}: ${message}`);
    expect(said(['3'])).toEqual(['empty: Contact 3 cannot be empty and hold WH-GN: give one of the two.']);
    expect(said(['S'])[0]).toContain('Contact S is said to be empty but is not among the colours');
    expect(said(['4', '4'])).toEqual(['empty: Contact 4 is named twice. Name it once.']);
  });
});
