import { ductFill } from './duct-fill.js';
import { held, toLookAt, type PlanFinding } from './finding.js';
import type { PlannedLink, Surroundings } from './planned-link.js';
import type { RunPiece } from './run.js';

/** Open mains under 2 kVA beside unscreened data (TIA-569, 5 in); screened cable in metal may lie nearer. */
const MAINS_APART_MM = 127;

/** What the way itself asks for: jackets, ducts, mains beside it, other buildings. */
export function wayFindings(
  { cable, carries }: PlannedLink,
  run: RunPiece[],
  around: Surroundings,
): PlanFinding[] {
  const findings: PlanFinding[] = [];
  for (const { name, space } of run) {
    const at = { stretch: name };
    if ((space === 'outdoor' || space === 'underground') && !cable.outdoor)
      findings.push({
        ...toLookAt('outdoor-jacket', 'the jacket’s print', { at, cures: [{ cure: 'outdoor-cable' }] }),
        verdict: 'fails',
        margin: -1,
      });
    if (space === 'riser' || space === 'plenum')
      findings.push(toLookAt('jacket-rating', 'local code; the jacket’s print', { at }));
    const conditions = around.conditions.find((one) => one.name === name);
    if (conditions?.ductMm) {
      const jackets = around.jacketsIn(name);
      const { share, most } = ductFill(conditions.ductMm, jackets);
      const toMm = conditions.ductMm * Math.sqrt(share / most);
      findings.push(
        held({
          check: 'duct',
          quantity: 'share',
          source: 'NFPA 70 chapter 9',
          is: share,
          limit: most,
          at,
          cures: () => [{ cure: 'wider-duct', toMm }],
        }),
      );
    }
    if (conditions?.mainsMm != null && cable.family === 'balanced' && !cable.screened)
      findings.push(
        held({
          check: 'mains',
          quantity: 'thickness',
          source: 'TIA-569, open mains under 2 kVA; local code decides',
          is: conditions.mainsMm,
          limit: MAINS_APART_MM,
          least: true,
          at,
          cures: () => [{ cure: 'move-apart', toMm: MAINS_APART_MM }],
        }),
      );
  }
  if (carries.betweenBuildings || run.some(({ space }) => space === 'outdoor' || space === 'underground'))
    findings.push(toLookAt('between-buildings', 'local code; a licensed person'));
  return findings;
}
