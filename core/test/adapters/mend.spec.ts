import { checkAdapter, mend, workUp, type AdapterDesign, type RuleId } from '@near-spoke/core';
import { end, joins, KNOWN_ADAPTERS } from './known-adapters.js';

const lead = (design: Partial<AdapterDesign> & Pick<AdapterDesign, 'ends' | 'joins'>): AdapterDesign => ({
  name: 'lead',
  wires: [],
  lengthM: 1,
  ...design,
});
const mended = (design: AdapterDesign, rule: RuleId): { rules: string[]; did: string } | null => {
  const finding = checkAdapter(design).find((each) => each.rule === rule);
  if (!finding) throw new Error(`no ${rule}`);
  const after = mend(design, finding);
  return after && { rules: checkAdapter(after.design).map((each) => each.rule), did: after.did };
};
const DTE = '2 RXD i !,3 TXD o,5 GND g';

describe('mending what a rule found', () => {
  it('crosses two outputs that fight, and both inputs are heard', () => {
    const design = lead({
      ends: [end('A', 'one', 'DE-9', DTE, 'rs-232'), end('B', 'other', 'DE-9', DTE, 'rs-232')],
      joins: joins('A2-B2 A3-B3 A5-B5'),
    });
    const after = mended(design, 'outputs-fight');
    expect(after?.rules).not.toContain('outputs-fight');
    expect(after?.rules).not.toContain('input-undriven');
    expect(after?.did).toBe('Joined A 2 to B 3, A 3 to B 2.');
  });

  it('joins grounds that are missing', () => {
    const design = lead({
      ends: [end('A', 'one', 'DE-9', DTE, 'rs-232'), end('B', 'other', 'DE-9', DTE, 'rs-232')],
      joins: joins('A2-B3 A3-B2'),
    });
    expect(mended(design, 'ground-missing')?.rules).toEqual([]);
  });

  it('puts a divider with both its resistors between 5 V and an input of 3.3 V', () => {
    const design = lead({
      ends: [
        end('A', 'sender', '1x2', '1 TXD o,2 GND g', 'cmos-5'),
        end('B', 'hearer', '1x2', '1 RXD i !,2 GND g', 'cmos-3v3'),
      ],
      joins: joins('A1-B1 A2-B2'),
    });
    const finding = checkAdapter(design).find(({ rule }) => rule === 'levels-damage');
    const after = finding && mend(design, finding);
    expect(after?.design.joins.flatMap(({ parts }) => parts.map(({ kind }) => kind))).toEqual([
      'resistor',
      'resistor',
    ]);
    expect(checkAdapter(after?.design ?? design)).toEqual([]);
  });

  it('puts a driver chip between RS-232 and logic, and takes off a shield’s second ground and reserved contacts', () => {
    const serial = lead({
      ends: [
        end('A', 'terminal', 'DE-9', '3 TXD o,5 GND g', 'rs-232'),
        end('B', 'logger', '1x2', '1 RXD i !,2 GND g', 'cmos-3v3'),
      ],
      joins: joins('A3-B1 A5-B2'),
    });
    // The chip wants the logger's supply, which its connector does not bring out.
    expect(mended(serial, 'levels-damage')?.rules).toEqual(['stage-unfed']);
    const shielded = lead({
      ends: [
        end('A', 'one', '1x3', '1 IN a ~m,2 RET a ~m,3 SHIELD sh'),
        end('B', 'other', '1x4', '1 OUT a ~m,2 RET a ~m,3 SHIELD sh,4 TEST r'),
      ],
      joins: joins('A1-B1 A2-B2 A3-B3 A3-B4'),
    });
    expect(mended(shielded, 'shield')?.rules).not.toContain('shield');
    expect(mended(shielded, 'joined-not-connected')?.rules).not.toContain('joined-not-connected');
  });

  it('leaves to a person what has more than one answer', () => {
    const design = lead({
      ends: [end('A', 'one', '1x1', '1 V so @5'), end('B', 'other', '1x1', '1 V so @5')],
      joins: joins('A1-B1'),
    });
    expect(mended(design, 'two-sources')).toBeNull();
  });

  it('never leaves a finding that it mends, nor more that is wrong than there was', () => {
    const wrongs = (design: AdapterDesign): number =>
      checkAdapter(design).filter(({ severity }) => severity === 'wrong').length;
    let tried = 0;
    for (const { what, design } of KNOWN_ADAPTERS)
      for (const finding of checkAdapter(design).filter(({ severity }) => severity === 'wrong')) {
        const after = mend(design, finding);
        if (!after) continue;
        tried++;
        expect(() => workUp(after.design))
          .withContext(what)
          .not.toThrow();
        expect(wrongs(after.design)).withContext(`${what}: ${after.did}`).toBeLessThanOrEqual(wrongs(design));
        expect(checkAdapter(after.design)).withContext(after.did).not.toContain(finding);
      }
    expect(tried).toBeGreaterThan(4);
  });
});
