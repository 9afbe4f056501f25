import type { AdapterDesign, AdapterNet, Coupling } from '../design.js';
import { placedStage } from '../level-stage.js';
import { named, places, type RuleFinding } from './finding.js';

/** Level stages that neither of their ends has everything for. */
export function stageRules(
  design: Pick<AdapterDesign, 'ends'>,
  nets: readonly AdapterNet[],
  couplings: readonly Coupling[],
): RuleFinding[] {
  return couplings.flatMap((coupling): RuleFinding[] => {
    const stage = placedStage(design, nets, coupling);
    if (!stage || stage.missing.length === 0) return [];
    const { driver, receiver, missing, end } = stage;
    return [
      {
        rule: 'stage-unfed',
        severity: 'unsure',
        contacts: places([driver, receiver]),
        words: `${named([driver])} to ${named([receiver])}: the level stage needs ${missing.join(' and ')}, which no contact at ${end} gives.`,
        remedy: 'Carry it there on a conductor of its own, or feed the stage from beside the lead.',
      },
    ];
  });
}
