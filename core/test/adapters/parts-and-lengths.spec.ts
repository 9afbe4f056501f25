import { end, joins } from './known-adapters.js';
import {
  buildPlan,
  checkAdapter,
  drawStage,
  LEVEL_FAMILIES,
  levelStage,
  proposeLevelChange,
  readPinout,
  workUp,
  type AdapterDesign,
  type AdapterEnd,
  type InlinePart,
  type LevelFamily,
  type RuleFinding,
  type StagePart,
} from '../../src/index.js';

const family = (id: string): LevelFamily => LEVEL_FAMILIES.find((one) => one.id === id) as LevelFamily;
const lead = (
  ends: AdapterEnd[],
  joined: string,
  parts: Record<string, InlinePart[]> = {},
  lengthM = 1,
): AdapterDesign => ({ name: 'lead', ends, joins: joins(joined, parts), wires: [], lengthM });
const of = (design: AdapterDesign, rule: RuleFinding['rule']): RuleFinding[] =>
  checkAdapter(design).filter((finding) => finding.rule === rule);

describe('An LED in a lead', () => {
  const lamp = (volts: string, parts: InlinePart[]): RuleFinding[] =>
    of(
      lead(
        [end('A', 'pack', 'box', `1 V+ so @${volts},2 GND g`), end('B', 'lamp', 'box', '1 A i,2 K g')],
        'A2-B2 A1-B2',
        {
          'A1-B2': parts,
        },
      ),
      'led',
    );
  const led = (words: string): InlinePart => ({ kind: 'LED', words });
  const resistor = (ohm: number): InlinePart => ({ kind: 'resistor', words: '', ohm });

  it('always gets an answer: its way round, and its current with fresh and with flat cells', () => {
    const [told] = lamp('2.4..3.2', [led('red'), resistor(150)]);
    expect(told?.severity).toBe('note');
    expect(told?.words).toContain('anode');
    expect(told?.words).toContain('towards A 1');
    const [fresh, flat] = [...(told?.words ?? '').matchAll(/([\d.]+) mA/g)].map(([, mA]) => Number(mA));
    // By hand: 3.2 V less 1.6 V over 152 ohm and more, 2.4 V less 1.85 V over 190 ohm and less.
    expect(fresh).toBeGreaterThan(8);
    expect(fresh).toBeLessThan(12);
    expect(flat).toBeGreaterThan(2);
    expect(flat).toBeLessThan(5);
  });

  it('without a resistor, too bright, or dark with flat cells is said with what to take', () => {
    const [bare] = lamp('5..5', [led('red')]);
    expect([bare?.severity, bare?.remedy]).toEqual([
      'wrong',
      jasmine.stringMatching(/Put \d+ ohm in its way/),
    ]);
    const proposed = Number(/Put (\d+) ohm/.exec(bare?.remedy ?? '')?.[1]);
    expect(lamp('5..5', [led('red'), resistor(proposed)])[0]?.severity).toBe('note');
    expect(lamp('5..5', [led('red'), resistor(47)])[0]?.severity).toBe('wrong');
    expect(lamp('1.8..3.2', [led('red'), resistor(150)])[0]?.severity).toBe('unsure');
    expect(lamp('1.2..1.5', [led('red'), resistor(10)])[0]?.words).toContain('do not light it');
    // A white one on two cells is dark long before they are empty.
    expect(lamp('2.4..3.2', [led('white'), resistor(47)])[0]?.severity).toBe('unsure');
  });

  it('fed by what is not known is asked about, not passed over', () => {
    const design = lead(
      [end('A', 'one', 'box', '1 X nc,2 GND g'), end('B', 'other', 'box', '1 Y nc,2 GND g')],
      'A1-B1 A2-B2',
      { 'A1-B1': [led('red'), resistor(150)] },
    );
    expect(of(design, 'led')[0]?.words).toContain('not known');
  });
});

describe('A figure left blank', () => {
  const fed = (gives: string, takes: string): RuleFinding[] =>
    of(
      lead(
        [
          end('A', 'supply', 'box', `1 V+ so @5 ${gives},2 GND g`),
          end('B', 'device', 'box', `1 VCC si @5 ${takes},2 GND g`),
        ],
        'A1-B1 A2-B2',
      ),
      'current-unknown',
    );
  it('is unknown, never nought: neither a supply nor a load is taken to give or take nothing', () => {
    expect(fed('*1', '*0.5')).toEqual([]);
    expect(fed('*1', '')[0]?.contacts).toEqual(['B 1']);
    expect(fed('', '*0.5')[0]?.contacts).toEqual(['A 1']);
    expect(fed('', '')[0]?.severity).toBe('unsure');
    const design = lead(
      [
        end('A', 'supply', 'box', '1 V+ so @5,2 GND g'),
        end('B', 'device', 'box', '1 VCC si @5 *0.5,2 GND g'),
      ],
      'A1-B1 A2-B2',
    );
    expect(of(design, 'supply-current')).toEqual([]);
  });
});

describe('What a lead is handled with', () => {
  const wires = ['1', '2', '3', 'SCREEN'].map((id) => ({
    id,
    colour: id === 'SCREEN' ? id : 'BU',
    areaMm2: 0.2,
    pair: null,
  }));
  it('a microphone’s pair keeps its screen, tied at one end; where nothing is heard a bare screen is insulated', () => {
    const of = (kind: string) => {
      const design = {
        ...lead(
          [
            end('A', 'mixer', 'box', `1 MIC ${kind} ~m,2 RET ${kind} ~m,3 GND g`),
            end('B', 'mic', 'box', `1 MIC ${kind} ~m,2 RET ${kind} ~m,3 GND g`),
          ],
          'A1-B1 A2-B2 A3-B3',
        ),
        wires,
      } as unknown as AdapterDesign;
      return buildPlan(design, workUp(design)).find(({ id }) => id === 'keep SCREEN')?.words;
    };
    expect(of('a')).toContain('to A 3 GND');
    expect(of('a')).toContain('one end only');
    expect(of('nc')).toContain('Insulate conductor SCREEN at both ends');
  });

  it('a phone plug that carries anything is pushed in dead', () => {
    const plug = (layout: string) => ({ ...end('A', 'keyer', 'plug', '1 KEY o,2 GND g', 'cmos-5'), layout });
    const other = end('B', 'radio', 'box', '1 KEY i,2 GND g', 'cmos-5');
    expect(of(lead([plug('phone-3'), other], 'A1-B1 A2-B2'), 'push-in-dead')[0]?.remedy).toContain(
      'both devices off',
    );
    expect(of(lead([plug('d-sub-9'), other], 'A1-B1 A2-B2'), 'push-in-dead')).toEqual([]);
  });

  it('tip, ring and sleeve written out are the contacts that the face names', () => {
    expect(
      readPinout('TIP\tMIC\taudio\nRing\tPTT\tin\nSLEEVE\tGND').pins.map(({ contact }) => contact),
    ).toEqual(['T', 'R', 'S']);
  });
});

describe('The length of a lead', () => {
  const serial = (lengthM: number, levels = 'rs-232'): RuleFinding[] =>
    of(
      lead(
        [
          end('A', 'one', 'box', '1 TXD o,2 GND g', levels),
          end('B', 'other', 'box', '1 RXD i,2 GND g', levels),
        ],
        'A1-B1 A2-B2',
        {},
        lengthM,
      ),
      'too-long',
    );
  it('is held against what its signals reach: 15 m of RS-232, 3 m of logic, 5 m of USB', () => {
    expect(serial(15)).toEqual([]);
    expect(serial(18)[0]?.words).toContain('RS-232');
    expect(serial(2.5, 'cmos-5')).toEqual([]);
    expect(serial(4, 'cmos-5')[0]?.severity).toBe('unsure');
    const usb = (lengthM: number): RuleFinding[] => {
      const ends = ['A', 'B'].map((id) => ({
        ...end(id, id, 'USB', '2 D- b ~d,3 D+ b ~d,4 GND g', 'cmos-3v3'),
        layout: 'usb-a',
      }));
      return of(lead(ends, 'A2-B2 A3-B3 A4-B4', {}, lengthM), 'too-long');
    };
    expect(usb(5)).toEqual([]);
    expect(usb(6)[0]?.words).toContain('USB');
  });

  it('says nothing of a lamp or a key, which go any length', () => {
    const design = lead(
      [
        end('A', 'one', 'box', '1 LAMP o,2 GND g', 'cmos-5'),
        end('B', 'other', 'box', '1 LAMP i,2 GND g', 'cmos-5'),
      ],
      'A1-B1 A2-B2',
      {},
      40,
    );
    expect(of(design, 'too-long')).toEqual([]);
  });
});

/**
 * The level at the output of a stage by what its parts are: transistors are switches that a driven base closes, resistors
 * pull a node that nothing stronger holds. Knows nothing of how the stage was chosen.
 */
function outputOf(parts: readonly StagePart[], input: boolean): boolean | null {
  const held = new Map<string, boolean>([
    ['in', input],
    ['ground', false],
    ['supply of the receiver', true],
    ['supply of the sender', true],
  ]);
  const resistors = parts.filter(({ kind }) => kind === 'resistor');
  const pulled = (node: string, not: ReadonlySet<string> = new Set()): boolean | null => {
    const fixed = held.get(node);
    if (fixed !== undefined) return fixed;
    for (const { contacts } of parts) {
      if (
        contacts['C'] === node &&
        contacts['B'] &&
        !not.has(node) &&
        pulled(contacts['B'], new Set([...not, node]))
      )
        return false;
    }
    const by = resistors
      .flatMap(({ contacts: { one = '', other = '' } }) =>
        one === node ? [other] : other === node ? [one] : [],
      )
      .filter((next) => !not.has(next))
      .map((next) => pulled(next, new Set([...not, node])));
    return by.includes(true) ? true : by.includes(false) ? false : null;
  };
  return pulled('out');
}

describe('A level stage as parts', () => {
  it('of two transistors does not invert, by the parts alone', () => {
    const parts = levelStage(family('cmos-1v8'), family('cmos-5'));
    expect(parts.filter(({ kind }) => kind === 'NPN').length).toBe(2);
    expect([outputOf(parts, true), outputOf(parts, false)]).toEqual([true, false]);
    // With one transistor taken out it would be found to invert, or to stand still: the check is able to fail.
    expect(
      outputOf(
        parts.filter(({ id }) => id !== 'T1'),
        true,
      ),
    ).toBeFalse();
  });

  it('is what the words propose, whatever the two families', () => {
    for (const driver of LEVEL_FAMILIES)
      for (const receiver of LEVEL_FAMILIES)
        for (const bothWays of [false, true]) {
          const { by } = proposeLevelChange(driver, receiver, { bothWays });
          const parts = levelStage(driver, receiver, { bothWays });
          const context = `${driver.id} to ${receiver.id}${bothWays ? ' both ways' : ''}: ${by}`;
          expect(parts.length === 0)
            .withContext(context)
            .toBe(by === 'nothing');
          const nodes = parts.flatMap(({ contacts }) => Object.values(contacts));
          if (parts.length > 0)
            expect(nodes.includes('in') && nodes.includes('out'))
              .withContext(context)
              .toBeTrue();
          // A point inside joins at least two contacts, or a part hangs in the air.
          for (const node of nodes.filter((each) => /^(base|collector)/.test(each)))
            expect(nodes.filter((each) => each === node).length)
              .withContext(`${context}, ${node}`)
              .toBeGreaterThan(1);
        }
  });

  it('has its gate on the lower supply and its source on the lower side, whichever end that is', () => {
    for (const [one, other] of [
      ['cmos-1v8', 'cmos-5'],
      ['cmos-5', 'cmos-1v8'],
    ] as const) {
      const fet = levelStage(family(one), family(other), { bothWays: true }).find(({ id }) => id === 'T1');
      const lowIsSender = one === 'cmos-1v8';
      expect(fet?.contacts)
        .withContext(one)
        .toEqual({
          G: lowIsSender ? 'supply of the sender' : 'supply of the receiver',
          S: lowIsSender ? 'in' : 'out',
          D: lowIsSender ? 'out' : 'in',
        });
    }
  });

  const built = (b: string) =>
    lead(
      [
        end('A', 'logger', 'box', '1 TXD o,2 GND g,3 V+ so @1.8 *0.1', 'cmos-1v8'),
        end('B', 'device', 'box', b, 'cmos-5'),
      ],
      'A1-B1 A2-B2',
      { 'A1-B1': [{ kind: 'level stage', words: '' }] },
    );

  it('is built contact by contact, with the supply and the ground of the end that it lies at', () => {
    const design = built('1 RXD i,2 GND g,3 VCC si @5 *0.1');
    expect(of(design, 'stage-unfed')).toEqual([]);
    const steps = buildPlan(design, workUp(design)).filter(({ id }) => id.startsWith('stage '));
    const words = steps.map((step) => step.words).join(' ');
    expect(steps.length).toBe(6);
    expect(words).toContain('from A 1 TXD to the base of T1');
    expect(words).toContain('E to B 2 GND');
    expect(words).toContain('from B 3 VCC to B 1 RXD');
  });

  it('is drawn with the lead’s own contacts at its edges and every part that it is built of', () => {
    for (const driver of LEVEL_FAMILIES)
      for (const receiver of LEVEL_FAMILIES)
        for (const bothWays of [false, true]) {
          const parts = levelStage(driver, receiver, { bothWays });
          const names = {
            in: 'A 1',
            out: 'B 1',
            ground: 'B 2',
            'supply of the sender': 'A 3',
            'supply of the receiver': 'B 3',
          };
          const drawing = drawStage(parts, names);
          const context = `${driver.id} to ${receiver.id}${bothWays ? ' both ways' : ''}`;
          if (parts.length === 0) {
            expect(drawing).withContext(context).toBeNull();
            continue;
          }
          const words = drawing?.texts.map((text) => text.words) ?? [];
          const used = new Set(parts.flatMap(({ contacts }) => Object.values(contacts)));
          for (const [node, name] of Object.entries(names))
            if (used.has(node)) expect(words).withContext(`${context}: ${node}`).toContain(name);
          for (const { id } of parts.filter(({ id }) => !/^C\d/.test(id) && id !== 'U1'))
            expect(words.some((each) => each.startsWith(id)))
              .withContext(`${context}: ${id}`)
              .toBeTrue();
          for (const { x, y, anchor, words: text } of drawing?.texts ?? []) {
            const from =
              anchor === 'start' ? x : anchor === 'end' ? x - 7 * text.length : x - 3.5 * text.length;
            expect(
              from >= -1 &&
                from + 7 * text.length <= (drawing?.width ?? 0) + 1 &&
                y > 0 &&
                y < (drawing?.height ?? 0),
            )
              .withContext(`${context}: ${text}`)
              .toBeTrue();
          }
        }
  });

  it('with no supply where it lies is said, with what to carry over', () => {
    expect(of(built('1 RXD i,2 GND g'), 'stage-unfed')[0]?.words).toContain('the supply of device');
  });
});
