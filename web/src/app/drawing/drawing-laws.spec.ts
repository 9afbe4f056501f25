import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import {
  buildCard,
  CABLE_TYPES,
  checkFit,
  conductorsOf,
  CONNECTOR_TYPES,
  CONTACT_LAYOUTS,
  LINK_STAGES,
  type CableType,
  type ConnectorType,
  type PartVerdict,
  type WorkCard,
} from '@near-spoke/core';
import { CableSection } from './cable-section';
import { ConnectorFace } from './connector-face';
import { ConnectorFront } from './connector-front';
import { FinishedEnd } from './finished-end';
import { PlugFace } from './plug-face';
import { StageGlyph } from './stage-glyph';
import { StripPlanPicture } from './strip-plan';
import { ThreadedParts } from './threaded-parts';
import { WiredFace } from './wired-face';

/** A drawing that can be given one thing after another. */
async function drawing<C>(
  component: Type<C>,
  inputs: Record<string, unknown>,
): Promise<{ page: HTMLElement; give: (more: Record<string, unknown>) => Promise<void> }> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture: ComponentFixture<C> = TestBed.createComponent(component);
  const give = async (more: Record<string, unknown>): Promise<void> => {
    for (const [name, value] of Object.entries(more)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
  };
  await give(inputs);
  return { page: fixture.nativeElement as HTMLElement, give };
}
const shift = (element: Element): [number, number] => {
  const [, x, y] =
    /translate\((-?[\d.e-]+)[ ,]+(-?[\d.e-]+)\)/.exec(element.getAttribute('transform') ?? '') ?? [];
  return [Number(x), Number(y)];
};
const figure = (element: Element, name: string): number => Number(element.getAttribute(name));

/** Every connector of the kit on a cable that it fits. */
const FITTING: readonly { connector: ConnectorType; cable: CableType; card: WorkCard }[] =
  CONNECTOR_TYPES.flatMap((connector) => {
    const cable = CABLE_TYPES.find((one) =>
      checkFit(one, connector).every(({ verdict }) => verdict !== 'does not fit'),
    );
    return cable ? [{ connector, cable, card: buildCard({ cable, connector }) }] : [];
  });

describe('drawings of the whole kit', () => {
  it('rest on every connector', () => {
    expect(FITTING.length).toBe(CONNECTOR_TYPES.length);
  });

  it('set the contacts apart: no box covers another, and each contact is there once', async () => {
    const [first] = FITTING;
    const { page, give } = await drawing(WiredFace, {
      connector: first?.connector,
      order: first?.card.order,
    });
    for (const { connector, card } of FITTING) {
      await give({ connector, order: card.order });
      const boxes = [...page.querySelectorAll('g[transform]')].map((box) => ({
        at: shift(box),
        contact: box.querySelector('.contact')?.textContent,
      }));
      expect(new Set(boxes.map(({ contact }) => contact)).size)
        .withContext(connector.id)
        .toBe(boxes.length);
      boxes.forEach(({ at: [x, y], contact }, i) => {
        for (const other of boxes.slice(i + 1))
          expect(Math.abs(x - other.at[0]) >= 54 || Math.abs(y - other.at[1]) >= 46)
            .withContext(`${connector.id}: ${contact} and ${other.contact}`)
            .toBeTrue();
      });
    }
  });

  it('cut each layer further from the jacket than the one over it, and within the picture', async () => {
    const plans = FITTING.map(({ connector, card }) => ({ id: connector.id, plan: card.strip }));
    const { page, give } = await drawing(StripPlanPicture, { plan: plans[0]?.plan });
    for (const { id, plan } of plans) {
      await give({ plan });
      const [jacket, ...others] = [...page.querySelectorAll('.measure path')].map((line) =>
        Number(/^M([\d.]+)/.exec(line.getAttribute('d') ?? '')?.[1]),
      );
      if (jacket === undefined) continue;
      expect(jacket).withContext(`${id}: some jacket is seen`).toBeGreaterThan(20);
      others.reduce((before, x) => {
        expect(x).withContext(id).toBeGreaterThanOrEqual(before);
        return x;
      }, jacket);
      expect(Math.max(jacket, ...others))
        .withContext(id)
        .toBeLessThanOrEqual(296);
    }
  });

  it('are to scale: a strip twice as long is twice as far from the end', async () => {
    const plan = FITTING.find(({ connector }) => connector.id === 'plug-closed')?.card.strip;
    const { page, give } = await drawing(StripPlanPicture, { plan });
    const bare = (): number => 296 - figure(page.querySelector('.jacket') as Element, 'width');
    const cutTo = (mm: number): object => ({
      ...plan,
      jacketMm: mm,
      cuts: plan?.cuts.map((cut) => ({ ...cut, fromEndMm: mm, baresMm: mm })),
    });
    await give({ plan: cutTo(10) });
    const ten = bare();
    await give({ plan: cutTo(20) });
    expect(bare()).toBeCloseTo(2 * ten, 6);
  });

  it('name what is finished, and a joint as a joint', async () => {
    const { page, give } = await drawing(FinishedEnd, { connector: CONNECTOR_TYPES[0] });
    for (const connector of CONNECTOR_TYPES) {
      await give({ connector });
      const words = page.querySelector('[role="img"]')?.getAttribute('aria-label') ?? '';
      expect(words.startsWith('Finished joint'))
        .withContext(connector.id)
        .toBe(connector.group === 'splice');
      expect(words).withContext(connector.id).not.toContain('undefined');
    }
  });

  it('keep every conductor of a cable inside its jacket, none over another', async () => {
    const { page, give } = await drawing(CableSection, { cable: CABLE_TYPES[0] });
    for (const cable of CABLE_TYPES) {
      await give({ cable });
      const discs = [...page.querySelectorAll('circle')].map((circle) => ({
        x: figure(circle, 'cx'),
        y: figure(circle, 'cy'),
        r: figure(circle, 'r'),
      }));
      const label = page.querySelector('[role="img"]')?.getAttribute('aria-label') ?? '';
      expect(label).withContext(cable.id).toContain(`${cable.jacketMm} mm over all`);
      if (cable.family === 'ribbon') continue;
      for (const { x, y, r } of discs)
        expect(Math.hypot(x, y) + r)
          .withContext(cable.id)
          .toBeLessThanOrEqual(cable.jacketMm / 2 + 0.01);
    }
  });
});

describe('parts that go on first', () => {
  const verdicts = (...names: string[]): PartVerdict[] =>
    names.map((name) => ({
      part: {
        name,
        kind: 'boot',
        boreMm: 7,
        outsideMm: 11,
        lengthMm: 20,
        over: 'jacket',
        split: false,
        optional: true,
      },
      when: 'first',
      words: `${name} first`,
    })) as unknown as PartVerdict[];

  it('lie on the jacket, each beside the next, the one nearest the connector nearest the end', async () => {
    const { page, give } = await drawing(ThreadedParts, { verdicts: verdicts('boot', 'ferrule') });
    for (const names of [['boot'], ['boot', 'ferrule'], ['hood', 'nut', 'sleeve', 'tie']]) {
      await give({ verdicts: verdicts(...names) });
      const rings = [...page.querySelectorAll('g')].map((ring) => ({
        x: shift(ring)[0],
        name: ring.querySelector('text')?.textContent ?? '',
      }));
      expect(rings.map(({ name }) => name)).toEqual([...names].reverse());
      const end = figure(page.querySelector('.jacket') as Element, 'width');
      expect(Math.max(...rings.map(({ x }) => x + 50))).toBeLessThanOrEqual(end);
      for (const [i, { x }] of rings.entries())
        if (i > 0) expect(x - (rings[i - 1]?.x ?? 0)).toBeGreaterThan(50);
      const [, , width] = (page.querySelector('svg')?.getAttribute('viewBox') ?? '').split(' ').map(Number);
      expect(width).toBeGreaterThan(end + 90);
    }
  });

  it('that may go on at any time are left out where there is little room; what can never go on is not', async () => {
    const [first, second, third] = verdicts('boot', 'tie', 'hood');
    const all = [first, { ...second, when: 'any time' }, { ...third, when: 'never' }];
    const { page, give } = await drawing(ThreadedParts, { verdicts: all });
    const words = (): string[] => [...page.querySelectorAll('p')].map((one) => one.textContent ?? '');
    expect(words()).toEqual(['boot first', 'tie first', 'hood first']);
    await give({ compact: true });
    expect(words()).toEqual(['boot first', 'hood first']);
    expect(page.querySelector('.wrong')?.textContent).toBe('hood first');
  });
});

describe('faces that mirror', () => {
  it('every connector of the library from its other side, contact by contact', async () => {
    const { page, give } = await drawing(ConnectorFace, { layout: CONTACT_LAYOUTS[0] });
    const places = (): Map<string, number> =>
      new Map(
        [...page.querySelectorAll('g[transform]')].map((spot) => [
          spot.querySelector('text')?.textContent?.trim() ?? '',
          shift(spot)[0],
        ]),
      );
    for (const layout of CONTACT_LAYOUTS) {
      await give({ layout, face: 'mating' });
      const mating = places();
      await give({ layout, face: 'rear' });
      const rear = places();
      expect(rear.size).withContext(layout.id).toBe(layout.places.length);
      for (const [contact, x] of mating)
        expect(rear.get(contact)).withContext(`${layout.id} ${contact}`).toBeCloseTo(-x, 6);
    }
  });

  it('a plug in the hand and its own mating face: one reads as the other backwards', async () => {
    const order = conductorsOf(CABLE_TYPES[0] as CableType)
      .slice(0, 8)
      .map(({ id }, i) => ({ contact: String(i + 1), conductor: id }));
    const hand = await drawing(PlugFace, { order });
    const told = (page: HTMLElement): string[] =>
      (page.querySelector('[role="img"]')?.getAttribute('aria-label') ?? '')
        .split(': ')
        .slice(1)
        .join(': ')
        .split(', ');
    const inHand = told(hand.page);
    TestBed.resetTestingModule();
    const front = await drawing(ConnectorFront, { order });
    expect(told(front.page)).toEqual([...inHand].reverse());
    await front.give({ latch: 'up' });
    expect(told(front.page)).toEqual(inHand);
  });
});

describe('stages', () => {
  it('differ in shape, not in colour alone, and have names', async () => {
    const { page, give } = await drawing(StageGlyph, { stage: LINK_STAGES[0]?.id });
    const shapes = new Set<string>();
    const names = new Set<string>();
    for (const { id } of LINK_STAGES) {
      await give({ stage: id });
      const drawn = [...page.querySelectorAll('g *')].map((part) =>
        [
          part.tagName,
          ...['d', 'r', 'width', 'stroke-dasharray'].map((name) => part.getAttribute(name)),
        ].join(' '),
      );
      shapes.add(drawn.join(';'));
      names.add(page.querySelector('svg')?.getAttribute('aria-label') ?? '');
    }
    expect(shapes.size).toBe(LINK_STAGES.length);
    expect(names.size).toBe(LINK_STAGES.length);
    expect(names.has('')).toBeFalse();
  });
});
