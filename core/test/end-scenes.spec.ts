import {
  buildCard,
  CABLE_TYPES,
  checkFit,
  conductorCode,
  conductorPaint,
  CONNECTOR_TYPES,
  endScene,
  plugScene,
  sceneSvg,
  SCHEMES,
  type Scene,
  type SceneShape,
} from '@near-spoke/core';

type ContactShape = Extract<SceneShape, { is: 'contact' }>;
const contactsOf = ({ shapes }: Scene): ContactShape[] =>
  shapes.filter((shape): shape is ContactShape => shape.is === 'contact');
/** Every connector of the kit on a cable that it fits. */
const ENDS = CONNECTOR_TYPES.flatMap((connector) => {
  const cable = CABLE_TYPES.find((one) =>
    checkFit(one, connector).every(({ verdict }) => verdict !== 'does not fit'),
  );
  return cable ? [{ connector, order: buildCard({ cable, connector }).order }] : [];
});
const eight = SCHEMES.T568B.order.map((conductor, i) => ({ contact: String(i + 1), conductor }));

describe('The picture of an end', () => {
  it('has each contact of the card once, inside it, and no box over another, on every connector', () => {
    for (const { connector, order } of ENDS) {
      const scene = endScene(connector, order);
      const drawn = contactsOf(scene);
      const names = drawn.map(({ contact }) => contact);
      expect(new Set(names).size).withContext(connector.id).toBe(names.length);
      for (const { contact } of order) expect(names).withContext(connector.id).toContain(contact);
      drawn.forEach(({ x, y, width, height, contact }, i) => {
        expect(x - width / 2)
          .withContext(`${connector.id} ${contact}`)
          .toBeGreaterThanOrEqual(scene.x);
        expect(x + width / 2).toBeLessThanOrEqual(scene.x + scene.width);
        expect(y - height / 2).toBeGreaterThanOrEqual(scene.y);
        expect(y + height / 2).toBeLessThanOrEqual(scene.y + scene.height);
        for (const other of drawn.slice(i + 1))
          expect(Math.abs(x - other.x) >= width || Math.abs(y - other.y) >= height)
            .withContext(`${connector.id}: ${contact} and ${other.contact}`)
            .toBeTrue();
      });
      for (const { contact, conductor } of order)
        expect(scene.words).withContext(`${connector.id} ${contact}`).toContain(conductorCode(conductor));
    }
  });

  it('is painted on paper with every contact, code and paint that it has', () => {
    for (const { connector, order } of ENDS) {
      const { svg, width, height } = sceneSvg(endScene(connector, order), 205);
      expect(width).toBe(205);
      expect(height).toBeGreaterThan(10);
      for (const { contact, conductor } of order) {
        expect(svg).withContext(`${connector.id} ${contact}`).toContain(`>${contact}<`);
        expect(svg)
          .withContext(`${connector.id} ${contact}`)
          .toContain(`>${conductorCode(conductor)}<`);
        const { base, band } = conductorPaint(conductor);
        for (const paint of [base, band]) if (paint) expect(svg).withContext(connector.id).toContain(paint);
      }
    }
  });

  it('says on paper what names of its own would break it with', () => {
    const order = [{ contact: '<b>&', conductor: 'BU' }];
    const { svg } = sceneSvg(
      endScene({ ...CONNECTOR_TYPES[0], face: 'terminals', slots: [] } as never, order),
      100,
    );
    expect(svg).not.toContain('<b>');
    expect(svg).toContain('&#60;b&#62;&#38;');
  });

  it('turned in the hand keeps its contacts upright, and each the same conductor', () => {
    for (const latch of ['down', 'up'] as const)
      for (const cableFrom of ['below', 'left', 'right'] as const) {
        const scene = plugScene(eight, { latch, cableFrom });
        for (const { contact, code } of contactsOf(scene))
          expect(code?.words).toBe(eight[Number(contact) - 1]?.conductor);
        const { svg } = sceneSvg(scene, 200);
        const [turned, upright] = [scene.turnDeg, -scene.turnDeg].map((deg) => `rotate(${deg})`);
        if (scene.turnDeg === 0) expect(svg).not.toContain('rotate');
        else {
          expect(svg.split(`"${turned}"`).length - 1).toBe(1);
          // Eight contacts and the word on the jacket.
          expect(svg.split(` ${upright}"`).length - 1).toBe(9);
        }
      }
  });

  it('of a plug turned over reads backwards', () => {
    const across = (scene: Scene): string[] =>
      contactsOf(scene)
        .sort((a, b) => a.x - b.x)
        .map(({ contact }) => contact);
    expect(across(plugScene(eight, { latch: 'up' }))).toEqual(across(plugScene(eight)).reverse());
  });
});
