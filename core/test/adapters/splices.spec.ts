import fc from 'fast-check';
import { planSplice, type SpliceJoint } from '@near-spoke/core';

const joint = (name: string, change: Partial<SpliceJoint> = {}): SpliceJoint => ({
  name,
  oldAreaMm2: 0.14,
  newAreaMm2: 0.14,
  oldOverMm: 1.1,
  newOverMm: 1.2,
  volts: 12,
  ...change,
});
const jackets = { oldMm: 6, newMm: 6.5 };
const SLEEVE_MM = 22;

describe('a splice', () => {
  it('staggers its joints so that no two sleeves lie beside each other, and both sides make up the gap', () => {
    const one = fc.record({
      oldOverMm: fc.double({ min: 0.9, max: 3, noNaN: true }),
      newOverMm: fc.double({ min: 0.9, max: 3, noNaN: true }),
    });
    const law = fc.property(fc.array(one, { minLength: 1, maxLength: 9 }), (sizes) => {
      const plan = planSplice(
        sizes.map((size, n) => joint(`w${n}`, size)),
        jackets,
      );
      const places = plan.joints.map(({ atMm }) => atMm);
      const apart = places.every((at, n) => n === 0 || at - (places[n - 1] ?? 0) >= SLEEVE_MM);
      const inside = places.every((at) => at >= SLEEVE_MM / 2 && at <= plan.openMm - SLEEVE_MM / 2);
      // Both stubs overlap by the lap of ten millimetres.
      const meets = plan.joints.every(
        ({ oldStubMm, newStubMm }) => Math.abs(oldStubMm + newStubMm - plan.openMm - 10) < 1e-9,
      );
      return (
        apart && inside && meets && new Set(plan.joints.map((each) => each.joint.name)).size === sizes.length
      );
    });
    expect(() => fc.assert(law)).not.toThrow();
  });

  it('has every sleeve threaded before any joint is made, and shrunk only after all are metered', () => {
    const { steps } = planSplice([joint('red'), joint('black'), joint('white')], jackets);
    const first = (start: string): number => steps.findIndex((step) => step.startsWith(start));
    const last = (start: string): number => steps.findLastIndex((step) => step.startsWith(start));
    expect(steps[0]).toContain('prove it dead');
    expect(last('Thread')).toBeLessThan(first('Join'));
    expect(last('Join')).toBeLessThan(first('Look'));
    expect(first('Look')).toBeLessThan(first('Shrink'));
    expect(steps.at(-1)).toContain('outer sleeve');
    expect(steps.filter((step) => step.startsWith('Join')).length).toBe(3);
  });

  it('never takes a thinner conductor for the old one', () => {
    const thin = planSplice([joint('red', { oldAreaMm2: 0.34, newAreaMm2: 0.14 })], jackets);
    expect(thin.wrong).toEqual([
      jasmine.stringMatching(/^red: Thinner than the old: 0\.14 mm2 for 0\.34 mm2/),
    ]);
    expect(planSplice([joint('red', { oldAreaMm2: 0.34, newAreaMm2: 0.333 })], jackets).wrong).toEqual([]);
    expect(planSplice([joint('red', { newAreaMm2: 0.5 })], jackets).joints[0]?.remarks).toEqual([
      jasmine.stringMatching(/fold the old back/),
    ]);
  });

  it('chooses sleeves that pass the thicker insulation and grip the thinner, and says when none does', () => {
    const { joints, outer } = planSplice([joint('red')], jackets);
    const [red] = joints;
    expect(red?.sleeve?.tube.suppliedMm).toBeGreaterThan(1.2);
    expect(red?.sleeve?.tube.recoveredMm).toBeLessThan(1.1);
    expect(outer?.tube.suppliedMm).toBeGreaterThan(6.5);
    const none = planSplice([joint('red', { oldOverMm: 0.5, newOverMm: 6 })], jackets);
    expect(none.joints[0]?.sleeve).toBeNull();
    expect(none.wrong).toEqual([jasmine.stringMatching(/no sleeve passes/)]);
  });

  it('puts the thickest nearest the old jacket, and warns of flux, tape and high voltage', () => {
    const { joints, cautions } = planSplice(
      [joint('thin'), joint('thick', { oldOverMm: 2.6, newOverMm: 2.6, volts: 600 })],
      jackets,
    );
    expect(joints.map((each) => each.joint.name)).toEqual(['thick', 'thin']);
    expect(cautions.join(' ')).toMatch(/acid flux.*Metal tape conducts.*600 V may stand here/);
    expect(planSplice([joint('thin')], jackets).cautions.join(' ')).not.toContain('V may stand');
  });

  it('refuses what has no size', () => {
    expect(() => planSplice([joint('red', { newAreaMm2: 0 })], jackets)).toThrowError(RangeError, /^red: /);
    expect(() => planSplice([], { oldMm: 0, newMm: 5 })).toThrowError(RangeError, /jackets/);
  });
});
