import fc from 'fast-check';
import {
  buildPlan,
  buildProof,
  compareDesigns,
  judgeBuild,
  mend,
  netsOf,
  placeWords,
  pointKey,
  replaceEnd,
  soundAnswers,
  soundLead,
  suspectsOf,
  takeOffContact,
  joinContacts,
  joinsAt,
  workUp,
  wouldBeep,
  wrongTouches,
} from '@near-spoke/core';
import { anyDesign } from './any-design.js';

describe('any adapter, however it is joined', () => {
  it('is worked up, and every finding speaks of contacts that it has', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const known = new Set(
          design.ends.flatMap(({ id, pins }) => pins.map(({ contact }) => `${id} ${contact}`)),
        );
        const { findings, rows, dead } = workUp(design);
        for (const { contacts, words, remedy } of findings) {
          expect(contacts.every((contact) => known.has(contact)))
            .withContext(words)
            .toBeTrue();
          expect(words.endsWith('.') && remedy.endsWith('.'))
            .withContext(words)
            .toBeTrue();
        }
        // Every contact is in one row, or joined to nothing.
        const told = [...rows.flatMap(({ net }) => net.pins), ...dead].map(placeWords);
        expect(told.toSorted()).toEqual([...known].toSorted());
      }),
    );
  });

  it('gives a conductor to one net only, and none that its cable does not have', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const { rows, spares } = workUp(design);
        const used = rows.flatMap(({ wire }) => (wire === null ? [] : [wire]));
        expect(new Set(used).size).toBe(used.length);
        const all = design.wires.map(({ id }) => id);
        for (const wire of [...used, ...spares]) expect(all).toContain(wire);
        expect(spares.some((spare) => used.includes(spare))).toBeFalse();
      }),
    );
  });

  it('has a build whose steps are told apart and each lie at an end that it has', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const steps = buildPlan(design, workUp(design));
        expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
        const ends = design.ends.map(({ id }) => id);
        for (const { end, words } of steps) {
          expect(end === null || ends.includes(end))
            .withContext(words)
            .toBeTrue();
          expect(words).not.toContain('undefined');
        }
      }),
    );
  });

  it('has a build that leaves no joined contact out', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const worked = workUp(design);
        const steps = buildPlan(design, worked);
        for (const { net } of worked.rows.filter(({ net: { pins } }) => pins.length > 1))
          for (const pin of net.pins) {
            const made = steps.some(
              ({ id, end, contact, words }) =>
                (end === pin.end && contact === pin.contact) ||
                id === `press ${pin.end}` ||
                words.split(/[ :]+/).join(' ').includes(placeWords(pin)) ||
                // A bridge names the contact of its own connector that it goes to.
                (end === pin.end && words.endsWith(` to ${pin.contact}.`)),
            );
            expect(made).withContext(placeWords(pin)).toBeTrue();
          }
      }),
      { numRuns: 200 },
    );
  });

  it('is proved by the answers of a lead that is as it was meant, and by no others', () => {
    fc.assert(
      fc.property(anyDesign, fc.nat(), (design, n) => {
        const answers = soundAnswers(design);
        expect(judgeBuild(design, answers)).toBe('proved');
        const all = [...answers.beeped];
        if (all.length === 0) return;
        const at = n % all.length;
        const wrong = { ...answers, beeped: all.map((beeped, m) => (m === at ? !beeped : beeped)) };
        expect(judgeBuild(design, wrong)).toBe('failed');
        const open = { ...answers, beeped: all.map((beeped, m) => (m === at ? null : beeped)) };
        expect(judgeBuild(design, open)).toBe('unfinished');
        expect(() => judgeBuild(design, { ...answers, beeped: all.slice(1) })).toThrowError(/answers for/);
      }),
    );
  });

  it('has no suspect while it is heard to be right, and some for one wire open', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const { nets, proof } = workUp(design);
        const sound = soundLead(nets);
        expect(wrongTouches(proof, sound)).toEqual([]);
        const hear = (real: ReadonlyMap<string, number>) =>
          proof.map((touch) => ({ touch, beeped: wouldBeep(touch, real) }));
        expect(suspectsOf(nets, hear(sound), design.ends)).toEqual([]);
        const net = nets.find(({ points }) => points.length > 1);
        const last = net?.points.at(-1);
        if (!net || !last) return;
        const open = suspectsOf(nets, hear(new Map(sound).set(pointKey(last), -1)), design.ends);
        expect(
          open.some(({ kind, contacts }) => kind === 'open' && contacts.includes(placeWords(last))),
        ).toBeTrue();
      }),
      { numRuns: 60 },
    );
  });

  it('is no worse after a mend, which can be worked up, and differs from what it was', () => {
    const wrongs = (findings: ReturnType<typeof workUp>['findings']): number =>
      findings.filter(({ severity, rule }) => severity === 'wrong' && !rule.startsWith('wire-')).length;
    let mended = 0;
    fc.assert(
      fc.property(anyDesign, (design) => {
        const { findings } = workUp(design);
        for (const finding of findings.slice(0, 4)) {
          const after = mend(design, finding);
          if (!after) continue;
          mended++;
          expect(wrongs(workUp(after.design).findings))
            .withContext(after.did)
            .toBeLessThanOrEqual(wrongs(findings));
          expect(compareDesigns(design, after.design).length).withContext(after.did).toBeGreaterThan(0);
        }
      }),
      { numRuns: 150 },
    );
    expect(mended).toBeGreaterThan(5);
  });

  it('is the same where nothing was changed, and every change of a join can be taken back', () => {
    fc.assert(
      fc.property(anyDesign, fc.nat(), fc.nat(), (design, n, m) => {
        expect(compareDesigns(design, structuredClone(design))).toEqual([]);
        const places = design.ends.flatMap(({ id, pins }) =>
          pins.map(({ contact }) => ({ end: id, contact })),
        );
        const [from, to] = [places[n % places.length], places[m % places.length]];
        if (!from || !to) return;
        const joined = joinContacts(design, from, to);
        if (joined === design) return;
        const { nets } = netsOf(joined);
        const net = nets.find(({ pins }) => pins.some((pin) => placeWords(pin) === placeWords(from)));
        expect(net?.pins.map(placeWords)).toContain(placeWords(to));
        expect(joinsAt(takeOffContact(joined, from), from)).toEqual([]);
      }),
    );
  });

  it('loses with a contact only the joins that went to it', () => {
    fc.assert(
      fc.property(anyDesign, fc.nat(), (design, n) => {
        const [end] = design.ends;
        const gone = end?.pins[n % (end.pins.length || 1)];
        if (!end || !gone || end.pins.length < 2) return;
        const after = replaceEnd(design, { ...end, pins: end.pins.filter((pin) => pin !== gone) });
        const place = { end: end.id, contact: gone.contact };
        expect(after.joins.length).toBe(design.joins.length - joinsAt(design, place).length);
        expect(() => workUp(after)).not.toThrow();
      }),
    );
  });

  it('has a supply to be metered for every source that leads to another end', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const { rows } = workUp(design);
        const leading = rows.filter(({ net }) => {
          const source = net.pins.find(({ pin }) => pin.kind === 'supply-out');
          return source && net.pins.some(({ end }) => end !== source.end);
        });
        expect(buildProof(design).supplies.length).toBe(leading.length);
      }),
    );
  });
});
