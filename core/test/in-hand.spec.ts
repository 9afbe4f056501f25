import {
  CABLE_TYPES,
  cablesInHand,
  checkFit,
  CONNECTOR_TYPES,
  endAsLead,
  fittingOn,
  workUp,
  type CableType,
} from '@near-spoke/core';

const cable = (id: string): CableType => {
  const found = CABLE_TYPES.find((each) => each.id === id);
  if (!found) throw new Error(id);
  return found;
};
const ids = (id: string): string[] =>
  fittingOn(cable(id), CONNECTOR_TYPES).map(({ connector }) => connector.id);

describe('what is in the hand', () => {
  it('is of one group, each cable of just one, and a key for each', () => {
    const groups = cablesInHand(CABLE_TYPES);
    expect(groups.length).toBeLessThanOrEqual(9);
    const all = groups.flatMap(({ cables }) => cables.map(({ id }) => id));
    expect(all.toSorted()).toEqual(CABLE_TYPES.map(({ id }) => id).toSorted());
    expect(groups[0]?.cables.map(({ id }) => id)).toContain('cat6-u');
    expect(cablesInHand([])).toEqual([]);
  });

  it('is offered what goes on it alone, a sure fit first', () => {
    for (const each of CABLE_TYPES) {
      const fitting = fittingOn(each, CONNECTOR_TYPES);
      for (const { connector, sure } of fitting) {
        const verdicts = checkFit(each, connector).map(({ verdict }) => verdict);
        expect(verdicts).withContext(`${connector.id} on ${each.id}`).not.toContain('does not fit');
        expect(verdicts.includes('unknown')).withContext(`${connector.id} on ${each.id}`).toBe(!sure);
      }
      if (fitting.some(({ sure }) => sure)) expect(fitting[0]?.sure).withContext(each.id).toBeTrue();
    }
  });

  it('has the common ends on the first keys', () => {
    expect(ids('cat6-u').slice(0, 4)).toEqual([
      'plug-closed',
      'plug-pass-through',
      'jack-punched',
      'jack-toolless',
    ]);
    expect(ids('rg58').slice(0, 3)).toContain('bnc-crimp-rg58');
    expect(ids('rg6')[0]).toBe('coax-f');
    expect(ids('alarm-4')[0]).toContain('splice');
    expect(ids('tel-2').slice(0, 28)).toContain('phone-socket');
  });
});

describe('one end as a lead', () => {
  const lead = (cableId: string, connectorId: string): string[] | null => {
    const connector = CONNECTOR_TYPES.find(({ id }) => id === connectorId);
    const design = connector ? endAsLead(cable(cableId), connector, { scheme: 'T568A' }) : null;
    const words = ({ end, contact }: { end: string; contact: string }): string => `${end} ${contact}`;
    return design && workUp(design).nets.map(({ points }) => points.map(words).join(' = '));
  };

  it('joins each contact to the bare wire that the scheme has there', () => {
    expect(lead('cat6-u', 'plug-closed')).toEqual([
      'P 1 = W WH-GN',
      'P 2 = W GN',
      'P 3 = W WH-OG',
      'P 4 = W BU',
      'P 5 = W WH-BU',
      'P 6 = W OG',
      'P 7 = W WH-BN',
      'P 8 = W BN',
    ]);
  });

  it('of coax is its centre and its shell, of solder cups their free neighbours too', () => {
    expect(lead('rg6', 'coax-f')).toEqual(['P centre = W CENTRE', 'P shell = W SHELL']);
    expect(lead('multi-5', 'dsub-9-plug')?.filter((net) => !net.includes('='))).toContain('P 9');
  });
});
