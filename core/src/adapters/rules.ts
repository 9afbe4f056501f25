import { netsOf, type AdapterDesign } from './design.js';
import { driveRules } from './rules/drive.js';
import { places, type RuleFinding } from './rules/finding.js';
import { ledRules } from './rules/leds.js';
import { lengthRules } from './rules/lengths.js';
import { stageRules } from './rules/stages.js';
import { coupledLevels, levelRules } from './rules/levels.js';
import {
  batteryRules,
  currentRules,
  leastSupplies,
  supplyRules,
  suppliesThroughParts,
} from './rules/supply.js';
import {
  connectorRules,
  groundRules,
  pairRules,
  phonePlugRules,
  pinRules,
  shieldRules,
} from './rules/wiring.js';

export type { RuleFinding, RuleId } from './rules/finding.js';

/**
 * Everything that is electrically wrong, doubtful or worth knowing about an adapter, the worst
 * first. Rules look at nets and at what parts couple; a level stage in the way of a join answers for
 * its levels.
 *
 * @throws BadDesign for a join to a contact that is not there
 */
export function checkAdapter(design: AdapterDesign): RuleFinding[] {
  const { nets, couplings } = netsOf(design);
  const joined = new Set(nets.flatMap(({ pins }) => places(pins)));
  const supplied = leastSupplies(nets, couplings);
  const findings = [
    ...nets.flatMap((net) => [
      ...supplyRules(net, couplings),
      ...driveRules(net, couplings),
      ...levelRules(net, supplied),
      ...shieldRules(net),
      ...currentRules(net, design),
    ]),
    ...couplings.flatMap((coupling) => coupledLevels(coupling, nets, couplings, supplied)),
    ...batteryRules(nets, couplings),
    ...suppliesThroughParts(nets, couplings),
    ...groundRules(design, nets),
    ...design.ends.flatMap((end) => connectorRules(end)),
    ...pinRules(design, joined),
    ...pairRules(design, nets),
    ...phonePlugRules(design),
    ...ledRules(nets, couplings),
    ...lengthRules(nets, design),
    ...stageRules(design, nets, couplings),
  ];
  return worstFirst(findings);
}

const ORDER = { wrong: 0, unsure: 1, note: 2 };

/** Findings in the order in which they matter. */
export const worstFirst = (findings: readonly RuleFinding[]): RuleFinding[] =>
  findings.toSorted((a, b) => ORDER[a.severity] - ORDER[b.severity]);
