import fc from 'fast-check';
import { end, joins } from './known-adapters.js';
import { buildPlan, checkAdapter, workUp, type AdapterDesign, type AdapterEnd } from '../../src/index.js';

const header = (id: string, layout: string, words: string): AdapterEnd => ({
  ...end(id, id, 'header', words, 'cmos-3v3'),
  layout,
});
const between = (joined: string): AdapterDesign => ({
  name: 'loose wires',
  ends: [
    header(
      'A',
      'mate:header-2x5',
      '1 3V3 so @3.3 *0.5,2 NC nc,3 TX o,4 NC nc,5 RX i,6 GND g,7 CTS i,9 RTS o',
    ),
    header('B', 'mate:header-1x6', '1 GND g,2 CTS o,3 VCC si @3.3 *0.1,4 TXD o,5 RXD i,6 RTS i'),
  ],
  joins: joins(joined),
  wires: [],
  lengthM: 0.3,
});

describe('A lead of loose wires', () => {
  const design = between('A1-B3 A3-B5 A5-B4 A6-B1');
  const plan = workUp(design).jumpers;

  it('has one wire for each join: red for supply, black for ground, every other its own colour', () => {
    const colours = Object.fromEntries(
      (plan?.jumpers ?? []).map(({ to, colour }) => [`B${to.contact}`, colour]),
    );
    expect([colours['B3'], colours['B1']]).toEqual(['RD', 'BK']);
    expect(new Set(Object.values(colours)).size).toBe(4);
    expect(plan?.jumpers.length).toBe(design.joins.length);
  });

  it('has blocks of what lies side by side in a row of the header, and not of what only follows in number', () => {
    const blocks = (plan?.blocks ?? []).map(({ end: at, contacts }) => `${at} ${contacts.join(' ')}`);
    // A header of two rows numbers across: 1, 3 and 5 are neighbours, 5 and 6 stand opposite.
    expect(blocks).toContain('A 1 3 5');
    expect(blocks).toContain('A 6');
    expect(blocks).toContain('B 1');
    expect(blocks).toContain('B 3 4 5');
    expect(plan?.free.map(({ end: at, contact }) => `${at}${contact}`)).toContain('B2');
  });

  it('is built wire by wire and then held together, marked so that no block goes in turned over', () => {
    const steps = buildPlan(design, workUp(design));
    expect(steps.filter(({ kind }) => kind === 'joint').length).toBe(4);
    expect(steps.find(({ id }) => id === 'block B 3 4 5')?.words).toContain('turned over');
  });

  it('makes a bridge at one header a short wire of its own', () => {
    const bridged = between('A1-B3 A6-B1 B1-B6');
    const words = buildPlan(bridged, workUp(bridged)).map((step) => step.words);
    expect(words.some((each) => /A 6.*B 1|B 1.*A 6/.test(each))).toBeTrue();
    expect(words.some((each) => each.includes('B 6'))).toBeTrue();
    const alone = between('B1-B6');
    expect(
      workUp(alone).jumpers?.jumpers.map(
        ({ from, to }) => `${from.end}${from.contact}-${to.end}${to.contact}`,
      ),
    ).toEqual(['B1-B6']);
  });

  it('is for headers without a cable: with one, or on another connector, there is none', () => {
    const withCable = {
      ...design,
      wires: [{ id: '1', colour: 'RD', areaMm2: 0.2, pair: null, screen: false }],
    };
    expect(workUp(withCable as unknown as AdapterDesign).jumpers).toBeNull();
    const other = {
      ...design,
      ends: [design.ends[0] as AdapterEnd, { ...(design.ends[1] as AdapterEnd), layout: 'd-sub-9' }],
    };
    expect(workUp(other).jumpers).toBeNull();
  });

  it('covers every joined contact by exactly one block, whatever is joined', () => {
    const possible = ['A1-B3', 'A3-B5', 'A5-B4', 'A6-B1', 'A7-B2', 'A9-B6'];
    fc.assert(
      fc.property(fc.subarray(possible, { minLength: 1 }), (some) => {
        const chosen = between(some.join(' '));
        expect(checkAdapter(chosen)).toBeDefined();
        const { blocks = [], jumpers = [] } = workUp(chosen).jumpers ?? {};
        const inBlocks = blocks.flatMap(({ end: at, contacts }) =>
          contacts.map((contact) => `${at}${contact}`),
        );
        const joined = jumpers.flatMap(({ from, to }) => [
          `${from.end}${from.contact}`,
          `${to.end}${to.contact}`,
        ]);
        expect([...inBlocks].sort()).toEqual([...new Set(joined)].sort());
      }),
    );
  });
});
