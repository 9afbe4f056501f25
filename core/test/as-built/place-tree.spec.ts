import fc from 'fast-check';
import {
  placeAt,
  placeParts,
  placeTree,
  placeWay,
  type PlacedLink,
  type PlaceNode,
} from '../../src/as-built.js';

const link = (
  id: string,
  room: string,
  outlet: string,
  change: Partial<PlacedLink['near']> = {},
): PlacedLink => ({
  id,
  stage: 'proved',
  near: { hub: 'CR-1', panel: 'P1', port: '1', ...change },
  far: { room, outlet },
});
const leaves = (nodes: readonly PlaceNode[]): PlaceNode[] =>
  nodes.flatMap((node) => (node.children.length === 0 ? [node] : leaves(node.children)));
const all = (nodes: readonly PlaceNode[]): PlaceNode[] =>
  nodes.flatMap((node) => [node, ...all(node.children)]);

describe('the places of a site', () => {
  it('lie in one another as their names say: building, floor, room, outlet', () => {
    const tree = placeTree([
      link('a', 'Annex / 2nd floor / Laboratory', 'desk 2'),
      link('b', 'Annex / 10th floor / Store', 'door'),
      link('c', 'Hall', 'desk 1'),
    ]);
    expect(tree.map(({ name, what }) => [what, name])).toEqual([
      ['hub', 'CR-1'],
      ['place', 'Annex'],
      ['place', 'Hall'],
    ]);
    // In the order in which people count: the second floor before the tenth.
    expect(tree[1]?.children.map(({ name }) => name)).toEqual(['2nd floor', '10th floor']);
    const lab = placeAt(tree, tree[1]?.children[0]?.children[0]?.path ?? '');
    expect([lab?.name, lab?.links]).toEqual(['Laboratory', ['a']]);
    expect(placeWay(tree, lab?.path ?? '')).toEqual(['Annex', '2nd floor', 'Laboratory']);
  });

  it('are one place where two jobs name them alike, and two where a room and a hub have one name', () => {
    const tree = placeTree([link('a', 'Hall', 'x'), link('b', 'hall', 'y', { hub: 'Hall' })]);
    expect(tree.map(({ what, name, links }) => [what, name, links])).toEqual([
      ['hub', 'CR-1', ['a']],
      ['hub', 'Hall', ['b']],
      ['place', 'Hall', ['a', 'b']],
    ]);
  });

  it('keep a name with a stroke in it whole', () => {
    expect(placeParts('Store 3/4')).toEqual(['Store 3/4']);
    expect(placeParts(' / ')).toEqual([' / ']);
  });

  it('hold every link once at each of its ends, whatever they are called and in whatever order they come', () => {
    const names = fc.constantFrom('A', 'a', 'B / C', 'B / C / D', 'B', 'CR-1', 'C');
    const links = fc
      .array(fc.tuple(names, names, names), { maxLength: 30 })
      .map((some) => some.map(([room, outlet, hub], n) => link(String(n), room, outlet, { hub })));
    fc.assert(
      fc.property(links, (some) => {
        const tree = placeTree(some);
        for (const what of ['panel', 'outlet'] as const)
          expect(
            all(tree)
              .filter((node) => node.what === what)
              .flatMap((node) => node.links)
              .sort(),
          ).toEqual(some.map(({ id }) => id).sort());
        for (const node of all(tree)) {
          const stages = Object.values(node.stages).reduce((sum, count) => sum + count, 0);
          expect(stages).toBe(node.links.length);
          expect(placeAt(tree, node.path)).toBe(node);
          // What lies in a place ends in it as well.
          const below = new Set(leaves([node]).flatMap(({ links: ids }) => ids));
          expect([...below].every((id) => node.links.includes(id))).toBeTrue();
        }
        const shape = (nodes: readonly PlaceNode[]): unknown =>
          nodes.map(({ path, links: ids, children }) => [path, [...ids].sort(), shape(children)]);
        expect(shape(placeTree([...some].reverse()))).toEqual(shape(tree));
      }),
    );
  });
});
