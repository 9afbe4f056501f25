import { pointKey, type Net, type RealJoins } from '@near-spoke/core';

/** A lead as it was meant: every net its own lump of metal. */
export const sound = (nets: readonly Net[]): Map<string, number> =>
  new Map(nets.flatMap(({ points }, n) => points.map((point) => [pointKey(point), n] as const)));

/** Every lead with one thing wrong: one contact off its net, two nets joined, two contacts exchanged. */
export function* wrongLeads(nets: readonly Net[]): Generator<{ what: string; real: RealJoins }> {
  const built = sound(nets);
  const points = [...built.keys()];
  for (const point of points) {
    const net = built.get(point);
    if ([...built.values()].filter((other) => other === net).length < 2) continue;
    yield { what: `${point} open`, real: new Map(built).set(point, -1) };
  }
  for (let a = 0; a < nets.length; a++)
    for (let b = a + 1; b < nets.length; b++)
      yield {
        what: `${nets[a]?.name} shorted to ${nets[b]?.name}`,
        real: new Map([...built].map(([point, net]) => [point, net === b ? a : net])),
      };
  for (const [n, one] of points.entries())
    for (const other of points.slice(n + 1)) {
      const [x, y] = [built.get(one) ?? -1, built.get(other) ?? -1];
      // Two ends of the same loose wire, or two dead contacts, exchanged are the same lead.
      const lone = (net: number): boolean => [...built.values()].filter((each) => each === net).length === 1;
      if (x === y || (lone(x) && lone(y))) continue;
      yield { what: `${one} and ${other} exchanged`, real: new Map(built).set(one, y).set(other, x) };
    }
}
