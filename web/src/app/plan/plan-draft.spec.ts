import type { Link } from '@near-spoke/contracts';
import { someLink } from '../testing/links';
import { SHIPPED_KIT } from '../testing/rooms';
import {
  beginPlan,
  carriedDown,
  cellsToKeep,
  laidOver,
  readDraft,
  written,
  type BegunPlan,
  type DraftRow,
} from './plan-draft';

const links = (count: number, change: Partial<Link> = {}): Link[] =>
  Array.from({ length: count }, (_, i) =>
    someLink({
      id: `l${i + 1}`,
      label: `P1-0${i + 1}`,
      version: i + 1,
      near: { hub: 'CR-1', panel: 'P1', port: `0${i + 1}`, connectorId: 'jack-punched', done: false },
      far: { room: 'Hall', outlet: `desk ${i + 1}`, connectorId: 'jack-toolless', done: false },
      ...change,
    }),
  );
const plan = (count: number, units: 'metric' | 'imperial' = 'metric'): BegunPlan =>
  beginPlan(links(count), SHIPPED_KIT, { units, hub: 'CR-1' });
const begun = ({ rows }: BegunPlan): readonly DraftRow[] => rows;
const ids = (): (() => string) => {
  let n = 0;
  return () => `new-${++n}`;
};

describe('a plan as it is typed', () => {
  it('changes nothing by being read, in either unit', () => {
    for (const units of ['metric', 'imperial'] as const) {
      const of = plan(3, units);
      expect(readDraft(begun(of), of)).toEqual({ changes: [], added: [], problems: [] });
    }
  });

  it('sends only what was typed otherwise, with the version that was seen', () => {
    const of = plan(2);
    const rows = written(begun(of), { row: 1, column: 3 }, [['Attic', 'fan']]);
    expect(readDraft(rows, of).changes).toEqual([{ id: 'l2', version: 2, room: 'Attic', outlet: 'fan' }]);
    const length = written(begun(of), { row: 0, column: 8 }, [['92\' 6"']]);
    expect(readDraft(length, of).changes[0]?.lengthM).toBeCloseTo(28.194, 3);
  });

  it('takes a pasted block, of which what lies below the last row are new links', () => {
    const of = plan(1);
    const cells = ['P1-02', 'P1', '02', 'Hall', 'desk 2', 'cat6-u', 'jack-punched', 'jack-toolless', '30'];
    const rows = written(begun(of), { row: 1, column: 0 }, [cells, ['P1-03', 'P1', '03', 'Loft']], ids());
    const { added, problems } = readDraft(rows, of);
    expect(added.map(({ id, label, lengthM }) => [id, label, lengthM])).toEqual([['new-1', 'P1-02', 30]]);
    expect(problems.map(({ row, field }) => `${row} ${field}`)).toEqual([
      '2 outlet',
      '2 cable',
      '2 near',
      '2 far',
      '2 length',
    ]);
  });

  it('names the cell of a label or a port that two rows would have, and lets two exchange theirs', () => {
    const of = plan(3);
    const twice = written(begun(of), { row: 2, column: 0 }, [['P1-01', 'P1', '02']]);
    expect(readDraft(twice, of).problems.map(({ row, field }) => [row, field])).toEqual([
      [2, 'label'],
      [2, 'port'],
    ]);
    const exchanged = written(begun(of), { row: 0, column: 2 }, [['02'], ['01']]);
    expect(readDraft(exchanged, of)).toEqual({
      changes: [
        { id: 'l1', version: 1, port: '02' },
        { id: 'l2', version: 2, port: '01' },
      ],
      added: [],
      problems: [],
    });
  });

  it('does not blame what is typed for what was so before', () => {
    const of = beginPlan(links(2, { cableTypeId: 'gone-from-the-kit' }), SHIPPED_KIT, {
      units: 'metric',
      hub: 'CR-1',
    });
    expect(readDraft(begun(of), of).problems).toEqual([]);
    const rows = written(begun(of), { row: 0, column: 3 }, [['Attic']]);
    expect(readDraft(rows, of).problems).toEqual([]);
  });

  it('does not lose a link whose cells were all emptied', () => {
    const of = plan(2);
    const rows = written(begun(of), { row: 0, column: 0 }, [Array.from({ length: 10 }, () => '')]);
    const { problems, changes } = readDraft(rows, of);
    expect(changes).toEqual([]);
    expect(problems.some(({ row, message }) => row === 0 && message.includes('take it out'))).toBeTrue();
  });

  it('carries down: what is each link’s own counts up, the rest is the same', () => {
    const of = plan(4);
    const rows = carriedDown(begun(of), { top: 0, left: 2, bottom: 3, right: 3 });
    expect(rows.map(({ cells }) => cells.slice(2, 4))).toEqual([
      ['01', 'Hall'],
      ['02', 'Hall'],
      ['03', 'Hall'],
      ['04', 'Hall'],
    ]);
    const labels = carriedDown(written(rows, { row: 1, column: 0 }, [['A-09']]), {
      top: 1,
      left: 0,
      bottom: 3,
      right: 0,
    });
    expect(labels.map(({ cells }) => cells[0])).toEqual(['P1-01', 'A-09', 'A-10', 'A-11']);
  });

  it('is laid over the plan as it is by then: what a colleague changed elsewhere stays', () => {
    const of = plan(2);
    const rows = written(begun(of), { row: 1, column: 3 }, [['Attic'], ['Cellar']], ids());
    const kept = cellsToKeep(rows, begun(of));
    const changed = links(2).map((link) => ({ ...link, lengthM: 44, version: 7 }));
    const since = beginPlan(changed, SHIPPED_KIT, { units: 'metric', hub: 'CR-1' });
    const again = laidOver(since.rows, kept);
    expect(again.map(({ id, cells }) => [id, cells[3], cells[8]])).toEqual([
      ['l1', 'Hall', '44'],
      ['l2', 'Attic', '44'],
      ['new-1', 'Cellar', ''],
    ]);
    expect(readDraft(again, since).changes).toEqual([{ id: 'l2', version: 7, room: 'Attic' }]);
    expect(cellsToKeep(begun(of), begun(of))).toEqual([]);
  });
});
