import { readFileSync } from 'node:fs';
import { decodeReading, jobFile, readCommand, worldFile } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  diagnose,
  expectLink,
  type InstrumentClass,
  type Reading,
} from '@near-spoke/core';
import { answer, CLASSES, PRACTICE, type Bench } from '../src/session.js';
import { trueLink, type World } from '../src/world.js';

const read = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../demo/${name}`, import.meta.url), 'utf8'));
const demoWorld = (): World => worldFile.parse(read('world.json'));
const job = jobFile.parse(read('pellan-quay.job.json'));
const idOf = (label: string): string => job.links.find((link) => link.label === label)?.id ?? '';
const PLAN = {
  label: 'P1-05',
  cable: 'cat6-u',
  scheme: 'T568B',
  lengthM: 31.4,
  near: 'jack-punched',
  far: 'plug-closed',
};

function bench(world = demoWorld()): Bench & { kept: number } {
  return {
    world,
    kept: 0,
    keep(next) {
      Object.assign(this, { world: next });
      this.kept += 1;
    },
  };
}

function take(at: Bench, label: string, instrument: InstrumentClass, end: 'near' | 'far' = 'near'): Reading {
  const lines = answer(at, readCommand(instrument, end, idOf(label)));
  expect(lines.at(-1)).toBe(`DONE ${lines.length - 1}`);
  return decodeReading(lines.slice(0, -1));
}

const judge = (at: Bench, label: string, ...instruments: InstrumentClass[]) => {
  const plan = job.links.find((link) => link.label === label) as (typeof job.links)[number];
  const find = <T extends { id: string }>(list: readonly T[], id: string): T =>
    list.find((type) => type.id === id) as T;
  const expected = expectLink({
    cable: find(CABLE_TYPES, plan.cableTypeId),
    near: find(CONNECTOR_TYPES, plan.nearConnectorId),
    far: find(CONNECTOR_TYPES, plan.farConnectorId),
    lengthM: plan.lengthM,
    scheme: 'T568B',
  });
  return diagnose(
    expected,
    instruments.map((instrument) => take(at, label, instrument)),
  );
};

describe('the instrument stand-in', () => {
  it('says who it is and that it is simulated', () => {
    const lines = answer(bench(), 'IDENTIFY');
    expect(lines).toContain('SIMULATED yes');
    expect(lines).toContain(`CLASSES ${CLASSES.join(' ')}`);
  });

  it('answers with the instrument it was asked for, each of them', () => {
    for (const asked of CLASSES) {
      const lines = answer(bench(), `READ ${asked} near cord`);
      expect(lines[0])
        .withContext(lines.join('; '))
        .toMatch(new RegExp(`^READING ${asked} `));
    }
  });

  it('refuses a plan of what is not there in one line, keeps nothing of it, and goes on', () => {
    const at = bench();
    const before = JSON.stringify(at.world);
    const strange = { ...PLAN, cable: 'cat6\nDONE 0' };
    for (const asked of [
      `WORK near ${idOf('P1-05')} ${JSON.stringify(strange)}`,
      `BREAK ${PRACTICE}000000000001 1 7 calm ${JSON.stringify({ ...PLAN, far: 'hook' })}`,
    ]) {
      const lines = answer(at, asked);
      expect(lines.length).withContext(asked).toBe(1);
      expect(lines[0])
        .withContext(asked)
        .toMatch(/^ERROR bad-argument \S.*[^\n]$/);
      expect(lines[0]?.length).withContext(asked).toBeLessThan(340);
    }
    expect(at.kept).toBe(0);
    expect(JSON.stringify(at.world)).toBe(before);
    expect(answer(at, 'IDENTIFY').at(-1)).toMatch(/^DONE/);
  });

  it('tells the six failure stories of the demo from broken links', () => {
    const at = bench();
    expect(judge(at, 'P1-05', 'coded-mapper').headline).toBe('1 and 2 exchanged');
    expect(judge(at, 'P1-09', 'coded-mapper').headline).toBe('One end is T568A, the other T568B');
    expect(judge(at, 'P1-13', 'lamp-pairs').result).toBe('pass');
    expect(judge(at, 'P1-13', 'coded-mapper-crosstalk').headline).toBe('Split pairs on 3-6 and 4-5');
    expect(judge(at, 'P1-16', 'coded-mapper', 'pair-reflectometer').headline).toBe(
      '4 open; open at 23.0 m on 4-5',
    );
    expect(judge(at, 'P1-22', 'coded-mapper').headline).toBe('Screen open');
    expect(judge(at, 'C-02', 'coded-mapper').result).toBe('pass');
    expect(judge(at, 'C-02', 'pair-reflectometer').headline).toBe('Low impedance at 27.0 m');
  });

  it('passes every other terminated link of the demo', () => {
    const at = bench();
    const broken = new Set(['P1-05', 'P1-09', 'P1-13', 'P1-16', 'P1-22', 'C-02']);
    const whole = Object.entries(demoWorld().links).filter(
      ([, link]) => link.bare.length === 0 && !broken.has(link.label ?? ''),
    );
    expect(whole.length).toBe(21);
    for (const [, link] of whole)
      expect(judge(at, link.label ?? '', 'coded-mapper-crosstalk').result)
        .withContext(link.label ?? '')
        .toBe('pass');
  });

  it('is repaired by work on the right end and not by work on the wrong one', () => {
    const at = bench();
    answer(at, `WORK near ${idOf('P1-05')} ${JSON.stringify(PLAN)}`);
    expect(judge(at, 'P1-05', 'coded-mapper').result).toBe('fail');
    answer(at, `WORK far ${idOf('P1-05')} ${JSON.stringify(PLAN)}`);
    expect(judge(at, 'P1-05', 'coded-mapper').result).toBe('pass');
    expect(at.kept).toBe(2);
  });

  it('has a replaced cable begin with both ends open, and a mended one whole', () => {
    const at = bench();
    const id = idOf('P1-16');
    answer(
      at,
      `WORK mended ${id} ${JSON.stringify({ ...PLAN, label: 'P1-16', far: 'jack-punched', lengthM: 66.2 })}`,
    );
    expect(judge(at, 'P1-16', 'coded-mapper').result).toBe('pass');
    answer(
      at,
      `WORK replaced ${id} ${JSON.stringify({ ...PLAN, label: 'P1-16', far: 'jack-punched', lengthM: 66.2 })}`,
    );
    expect(judge(at, 'P1-16', 'coded-mapper').headline).toMatch(/^Nothing arrives/);
  });

  it('knows a link from the moment an end of it is terminated', () => {
    const at = bench({ format: 'near-spoke/world', formatVersion: 1, links: {}, reels: {} });
    expect(answer(at, readCommand('coded-mapper', 'near', 'new'))[0]).toMatch(/^ERROR unknown-link/);
    answer(at, `WORK near new ${JSON.stringify(PLAN)}`);
    expect(at.world.links['new']?.bare).toEqual(['far']);
    answer(at, `WORK far new ${JSON.stringify(PLAN)}`);
    expect(trueLink(at.world.links['new'] as World['links'][string]).link.far['1']).toBe('WH-OG');
  });

  for (const [request, code] of [
    ['MAKE COFFEE', 'unknown-command'],
    ['', 'unknown-command'],
    ['READ crystal-ball near x', 'unknown-class'],
    ['READ eye middle x', 'bad-argument'],
    ['READ eye near nobody', 'unknown-link'],
    ['WORK sideways x {}', 'bad-argument'],
    ['WORK far x {not json', 'bad-argument'],
    ['WORK far x {"cable":7}', 'bad-argument'],
    [`READ eye near ${'x'.repeat(5000)}`, 'line-too-long'],
  ]) {
    it(`refuses "${(request ?? '').slice(0, 30)}" with ${code} and changes nothing`, () => {
      const at = bench();
      const lines = answer(at, request ?? '');
      expect(lines.length).toBe(1);
      expect(lines[0]).toMatch(new RegExp(`^ERROR ${code} \\w`));
      expect(at.kept).toBe(0);
    });
  }
});
