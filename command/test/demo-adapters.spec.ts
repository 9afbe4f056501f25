import { readdirSync, readFileSync } from 'node:fs';
import { adapterFile, designOf, type AdapterFile } from '@near-spoke/contracts';
import {
  checkAdapter,
  dSubOrder,
  headerOrder,
  layRibbon,
  proposeLevelChange,
  LEVEL_FAMILIES,
  workUp,
} from '@near-spoke/core';

const folder = new URL('../../demo/adapters/', import.meta.url).pathname;
const names = readdirSync(folder).sort();
const file = (name: string): AdapterFile =>
  adapterFile.parse(JSON.parse(readFileSync(`${folder}${name}.adapter.json`, 'utf8')));
const family = (id: string) => {
  const found = LEVEL_FAMILIES.find((each) => each.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe('the adapters of the demo’s bench', () => {
  it('are four, each worked up whole with nothing wrong, every conductor chosen and a proof to run', () => {
    expect(names).toEqual([
      'departure-board-ribbon.adapter.json',
      'dome-shutter-hand-box.adapter.json',
      'gangway-intercom-tail.adapter.json',
      'tide-gauge-logger.adapter.json',
    ]);
    for (const name of names) {
      const worked = workUp(designOf(file(name.replace('.adapter.json', ''))));
      const told = worked.findings.map(({ severity, words }) => `${severity}: ${words}`).join('\n');
      expect(worked.findings.filter(({ severity }) => severity !== 'note'))
        .withContext(`${name}\n${told}`)
        .toEqual([]);
      expect(worked.noWires).withContext(name).toBe('');
      expect(worked.proof.length).withContext(name).toBeGreaterThan(4);
      for (const { net, wire } of worked.rows)
        if (new Set(net.pins.map(({ end }) => end)).size > 1)
          expect(wire).withContext(`${name}: ${net.name}`).not.toBeNull();
    }
  });

  it('the logger’s needs a line driver: without one its levels are destroyed and not read', () => {
    const design = designOf(file('tide-gauge-logger'));
    const straight = {
      ...design,
      joins: design.joins
        .filter(({ from, to }) => ![from.end, to.end].includes('S'))
        .concat(
          [
            ['1', '5'],
            ['2', '2'],
            ['3', '3'],
          ].map(([a = '', b = '']) => ({
            from: { end: 'A', contact: a },
            to: { end: 'B', contact: b },
            parts: [],
          })),
        ),
    };
    const rules = checkAdapter(straight)
      .filter(({ severity }) => severity === 'wrong')
      .map(({ rule }) => rule);
    expect(rules).toContain('levels-damage');
    expect(rules).toContain('levels-unread');
    expect(proposeLevelChange(family('rs-232'), family('cmos-3v3')).by).toBe('RS-232 driver chip');
  });

  it('the departure board’s ribbon has to be crossed: ten times, its tenth wire dead', () => {
    const { joins } = designOf(file('departure-board-ribbon'));
    const lay = layRibbon(
      {
        near: headerOrder(10),
        far: dSubOrder(9),
        joins: joins.map(({ from, to }) => [from.contact, to.contact] as const),
      },
      { mayTurn: false },
    );
    expect(lay.crossings).toBe(10);
    expect(lay.dead).toEqual([9]);
    expect(lay.order.map((conductor) => (conductor ?? -1) + 1).join(' ')).toBe('1 6 2 7 3 8 4 9 5');
  });

  it('the intercom’s halves have other colours, and no join goes colour to like colour', () => {
    const { joins } = designOf(file('gangway-intercom-tail'));
    expect(joins.length).toBe(6);
    expect(joins.every(({ from, to }) => from.contact !== to.contact)).toBeTrue();
    const mic = workUp(designOf(file('gangway-intercom-tail'))).rows.filter(({ net }) =>
      net.name.startsWith('MIC'),
    );
    expect(mic.map(({ wire }) => wire).sort()).toEqual(['3', '4']);
  });

  it('the hand-box has two switches, a lamp with its resistor, and cells that feed it', () => {
    const { couplings } = workUp(designOf(file('dome-shutter-hand-box')));
    expect(couplings.flatMap(({ parts }) => parts.map(({ kind }) => kind)).sort()).toEqual([
      'LED',
      'resistor',
      'switch',
      'switch',
    ]);
  });
});
