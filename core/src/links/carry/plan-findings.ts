import { dataFindings, telephoneFindings } from './data-findings.js';
import { loadFindings, powerFindings } from './feed-findings.js';
import { worstFindingsFirst, type PlanFinding } from './finding.js';
import { endsOf, isTelephone, type PlannedLink, type Surroundings } from './planned-link.js';
import { runOf } from './run.js';
import { busFindings, signalFindings } from './signal-findings.js';
import { wayFindings } from './way-findings.js';

/** Holds one planned link against everything that limits it; what fails first, then by what is left. */
export function planFindings(link: PlannedLink, around: Surroundings): PlanFinding[] {
  const run = runOf(link, around.conditions, around.fedIn);
  const way = { run, ends: endsOf(link, around) };
  const { carries, cable } = link;
  const telephone = isTelephone(link);
  const paired = cable.family === 'balanced' && cable.use === undefined && !telephone;
  return worstFindingsFirst([
    ...(paired ? dataFindings(link, way, around) : []),
    ...(telephone ? telephoneFindings(link, run) : []),
    ...(carries.power ? powerFindings(carries.power, link, way, around) : []),
    ...(carries.load ? loadFindings(carries.load, link, run, around) : []),
    ...(carries.signal && cable.family === 'coax' ? signalFindings(carries.signal, link, run, around) : []),
    ...(carries.bus ? busFindings(carries.bus, link) : []),
    ...wayFindings(link, run, around),
  ]);
}
