import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  cordAsLead,
  fittingOn,
  workUp,
  type CordSide,
  type SchemeId,
} from '@near-spoke/core';

const cable = (id: string) => CABLE_TYPES.find((one) => one.id === id) as (typeof CABLE_TYPES)[number];
const side = (id: string, scheme: SchemeId = 'T568B'): CordSide => ({
  connector: CONNECTOR_TYPES.find((one) => one.id === id) as (typeof CONNECTOR_TYPES)[number],
  choices: { scheme },
});
const joins = (near: CordSide, far: CordSide, cableId = 'cord-26'): string[] =>
  (cordAsLead(cable(cableId), [near, far], 2)?.joins ?? [])
    .map(({ from, to }) => `${from.contact}-${to.contact}`)
    .sort();

describe('a whole cord as a lead', () => {
  it('goes straight through where both ends are by one scheme', () => {
    for (const scheme of ['T568A', 'T568B'] as const)
      expect(joins(side('plug-closed', scheme), side('plug-closed', scheme))).toEqual(
        ['1', '2', '3', '4', '5', '6', '7', '8'].map((n) => `${n}-${n}`),
      );
  });

  it('exchanges two pairs from the one scheme to the other (TIA-568 crossover)', () => {
    expect(joins(side('plug-closed', 'T568A'), side('plug-closed', 'T568B'))).toEqual(
      ['1-3', '2-6', '3-1', '4-4', '5-5', '6-2', '7-7', '8-8'], // prettier-ignore
    );
  });

  it('joins a coax’s core to core and screen to screen', () => {
    expect(joins(side('coax-f'), side('coax-f'), 'rg6')).toEqual(['centre-centre', 'shell-shell']);
  });

  it('is worked up without a word against it, and has touches to prove it, on every cable that both ends fit', () => {
    let cords = 0;
    for (const each of CABLE_TYPES) {
      const fitting = fittingOn(each, CONNECTOR_TYPES).map(({ connector }) => connector);
      for (const connector of fitting) {
        const design = cordAsLead(each, [{ connector, choices: {} }, { connector, choices: {} }], 2); // prettier-ignore
        if (!design) continue;
        cords++;
        const { findings, nets, proof } = workUp(design);
        expect(findings.filter(({ severity }) => severity === 'wrong')).toEqual([]);
        expect(proof.length).toBeGreaterThanOrEqual(nets.length);
        // Both ends are made the same.
        for (const { from, to } of design.joins) expect(to.contact).toBe(from.contact);
      }
    }
    expect(cords).toBeGreaterThan(20);
  });
});
