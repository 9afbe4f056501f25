import type { PlannedLink, WorldFault } from '@near-spoke/contracts';
import {
  expectTold,
  FaultDice,
  POOR_GRADES,
  TYPICAL_PRACTICE,
  type Frame,
  type PhysicalFault,
  type Random,
  frameOf,
  intendedLink,
} from '@near-spoke/core';

/** Things that go wrong with a practice link, as the world file tells them. */
export function breakForPractice(plan: PlannedLink, count: number, random: Random): WorldFault[] {
  const expected = expectTold(plan);
  const frame = frameOf(intendedLink(expected));
  const dice = new FaultDice(expected, TYPICAL_PRACTICE);
  const { faults, link } = dice.draw(count, random);
  const ends = (['near', 'far'] as const).flatMap((end): WorldFault[] => {
    const touched = faults.some(
      (f) => f.end === end && f.effects.some((e) => e.does === 'wire' || e.does === 'reorder'),
    );
    if (!touched) return [];
    const wired = Object.entries(link[end]).filter(([contact]) => contact !== 'S');
    const told: WorldFault[] = [{ kind: 'wired', end, order: wired.map(([, conductor]) => conductor) }];
    if ('S' in link[end] && link[end]['S'] === null && expected.screened)
      told.push({ kind: 'screen-loose', end });
    return told;
  });
  return [...ends, ...faults.flatMap((fault) => tellEffects(frame, fault))];
}

function tellEffects(frame: Frame, fault: PhysicalFault): WorldFault[] {
  const wire = (w: number): string => frame.conductors[w] as string;
  const poorOhm = (condition: number): number | null => {
    const grade = POOR_GRADES[condition - 3];
    return grade ? Math.round(Math.sqrt(grade.fromOhm * grade.toOhm)) : null;
  };
  return fault.effects.flatMap((effect): WorldFault[] => {
    switch (effect.does) {
      case 'seat': {
        const contact = frame.contacts[effect.end][effect.contact] as string;
        const ohm = poorOhm(effect.condition);
        if (ohm !== null) return [{ kind: 'poor', end: effect.end, contact, ohm }];
        return effect.condition === 1
          ? [{ kind: 'unseated', end: effect.end, contact }]
          : [{ kind: 'loose', end: effect.end, contact, openShare: 0.3 }];
      }
      case 'core':
        return effect.conductors.map((w): WorldFault => {
          const [conductor, atM] = [wire(w), effect.atM];
          const ohm = poorOhm(effect.condition);
          if (ohm !== null) return { kind: 'poor', conductor, atM, ohm };
          return effect.condition === 1
            ? { kind: 'broken', conductor, atM }
            : { kind: 'loose', conductor, atM, openShare: 0.3 };
        });
      case 'bridge': {
        const name = (c: number): string => frame.contacts[effect.end][c] as string;
        return [{ kind: 'bridged', end: effect.end, contacts: [name(effect.a), name(effect.b)] }];
      }
      case 'join':
        return [{ kind: 'joined', conductors: [wire(effect.a), wire(effect.b)], atM: effect.atM }];
      case 'splice':
        return [{ kind: 'spliced', conductors: [wire(effect.a), wire(effect.b)], atM: frame.lengthM / 2 }];
      case 'wet':
        return [{ kind: 'wet', atM: effect.atM, lengthM: 1 }];
      case 'equipment':
        return [{ kind: 'plugged-in', end: effect.end }];
      case 'absent':
        return [{ kind: 'other-outlet' }];
      default:
        return [];
    }
  });
}
