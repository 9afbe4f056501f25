import { CATALOGUE_U95, velocityFor, type VelocityFigure } from '@near-spoke/core';

const cable = { id: 'rg6', velocityFactor: 0.82 };
const figure = (given: Partial<VelocityFigure>): VelocityFigure => ({
  cableTypeId: 'rg6',
  lot: '',
  reelId: null,
  velocityFactor: 0.83,
  u95: 0.003,
  at: '2026-11-01T08:00:00Z',
  ...given,
});

describe('the velocity to reckon with', () => {
  it('is the catalogue’s with its own doubt while nothing was measured', () => {
    expect(velocityFor([figure({ cableTypeId: 'rg213' })], cable)).toEqual({
      velocityFactor: 0.82,
      u95: CATALOGUE_U95,
      from: 'catalogue',
      figure: null,
    });
  });

  it('is the reel’s own before its lot’s, and the lot’s before another lot’s', () => {
    const [reel, lot, type] = [
      figure({ reelId: 'r1', lot: 'L7', velocityFactor: 0.831 }),
      figure({ lot: 'L7', velocityFactor: 0.834 }),
      figure({ lot: 'L8', velocityFactor: 0.826 }),
    ];
    const all = [type, lot, reel];
    const onReel = velocityFor(all, cable, { reelId: 'r1', lot: 'L7' });
    expect(onReel).toEqual({ velocityFactor: 0.831, u95: 0.003, from: 'reel', figure: reel });
    const onLot = velocityFor([type, lot], cable, { reelId: 'r2', lot: 'L7' });
    expect(onLot.from).toBe('lot');
    expect(onLot.velocityFactor).toBe(0.834);
    const onType = velocityFor([type], cable, { reelId: 'r2', lot: 'L9' });
    expect(onType.from).toBe('type');
    expect(onType.velocityFactor).toBe(0.826);
  });

  it('is the wider, the further off it was measured, and never surer than the measurement', () => {
    const all = [figure({ reelId: 'r1', lot: 'L7' })];
    const widths = [
      velocityFor(all, cable, { reelId: 'r1', lot: 'L7' }),
      velocityFor(all, cable, { reelId: 'r2', lot: 'L7' }),
      velocityFor(all, cable, { reelId: 'r3', lot: '' }),
      velocityFor([], cable),
    ].map(({ u95 }) => u95);
    expect(widths[0]).toBe(0.003);
    expect(widths).toEqual([...widths].sort((a, b) => a - b));
    expect(new Set(widths).size).toBe(4);
  });

  it('takes the newest of those that are as near', () => {
    const newest = figure({ reelId: 'r1', at: '2026-11-09T08:00:00Z', velocityFactor: 0.829 });
    const all = [newest, figure({ reelId: 'r1', at: '2026-11-02T08:00:00Z' })];
    expect(velocityFor(all, cable, { reelId: 'r1' }).figure).toBe(newest);
    expect(velocityFor(all.reverse(), cable, { reelId: 'r1' }).figure).toBe(newest);
  });

  it('does not take pieces of unknown lot for the same lot', () => {
    expect(velocityFor([figure({ lot: '' })], cable, { lot: '' }).from).toBe('type');
  });
});
