import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  conductorCode,
  conductorPaint,
  diagnose,
  intendedLink,
  observe,
  pictureLink,
  SCHEMES,
  type Reading,
  type TrueLink,
} from '@near-spoke/core';
import { someDetail, someExpectation } from '../testing/links';
import { ConnectorFront } from './connector-front';
import { JackSlots } from './jack-slots';
import { LinkStrip } from './link-strip';
import { PlugFace } from './plug-face';

async function draw<C>(component: Type<C>, inputs: Record<string, unknown>): Promise<HTMLElement> {
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  return fixture.nativeElement as HTMLElement;
}

const expected = someExpectation();
const sound = intendedLink(expected);

async function strip(link: TrueLink, ...instruments: Parameters<typeof observe>[1][]): Promise<HTMLElement> {
  const evidence: Reading[] = instruments.map((instrument) => observe(link, instrument, { end: 'far' }));
  const diagnosis = evidence.length > 0 ? diagnose(expected, evidence) : null;
  const picture = pictureLink(expected, evidence, diagnosis?.result === 'fail');
  return draw(LinkStrip, {
    detail: someDetail({ diagnosis }),
    picture,
    cableName: 'Cat 6',
    nearName: 'jack',
    farName: 'plug',
  });
}

const texts = (page: HTMLElement, selector: string): string[] =>
  [...page.querySelectorAll(selector)].map((e) => e.textContent?.trim() ?? '');

describe('the strip', () => {
  it('draws a sound link plain: eight conductors, no crossing, no doubt', async () => {
    const page = await strip(sound, 'coded-mapper');
    expect(page.querySelectorAll('[nsWire]').length).toBe(8);
    expect(page.querySelectorAll('.cross, .doubt, .belief').length).toBe(0);
    expect(texts(page, '.code').slice(0, 8)).toEqual([...SCHEMES.T568B.order]);
  });

  it('draws an exchanged pair at both ends with the belief in each, until colours settle it', async () => {
    const link = { ...sound, far: { ...sound.far, 1: 'OG', 2: 'WH-OG' } };
    const open = await strip(link, 'coded-mapper');
    // About as likely at either end, a little more so at the plug.
    const [near, far] = texts(open, '.belief').map((words) => parseInt(words, 10)) as [number, number];
    expect(near).toBeGreaterThan(35);
    expect(far).toBeGreaterThan(near);
    expect(near + far).toBeLessThanOrEqual(100);
    expect(open.querySelectorAll('.cross.unsure').length).toBe(4);
    TestBed.resetTestingModule();
    const settled = await strip(link, 'coded-mapper', 'eye');
    expect(texts(settled, '.belief')).toEqual(['100 %']);
    expect(texts(settled, '.doubt .code')).toEqual(['OG', 'WH-OG']);
  });

  it('opens the wall where a break was measured, and nowhere when it was not', async () => {
    const link = { ...sound, breaks: [{ conductor: 'BU', atM: 15.7 }] };
    const measured = await strip(link, 'coded-mapper', 'pair-reflectometer');
    expect(texts(measured, '.note')).toEqual(['broken, 15.7 m']);
    const place = measured.querySelector('.place') as SVGLineElement;
    // Half of the length lies in the middle of the picture, whatever its width.
    const { width } = (measured.querySelector('svg') as SVGSVGElement).viewBox.baseVal;
    expect(Number(place.getAttribute('x1'))).toBeCloseTo(width / 2, 0);
    expect(texts(measured, '.stretch-name.hit')).toEqual(['tray over hall']);
    TestBed.resetTestingModule();
    const unmeasured = await strip(link, 'coded-mapper');
    expect(unmeasured.querySelectorAll('.place').length).toBe(0);
    expect(texts(unmeasured, '.note')[0]).toContain('place unknown');
  });

  it('tells in words what it draws', async () => {
    const page = await strip({ ...sound, far: { ...sound.far, 1: 'OG', 2: 'WH-OG' } }, 'coded-mapper');
    expect(page.querySelector('svg')?.getAttribute('aria-label')).toContain(
      'P1-05 from CR-1 P1 port 05 to departures 1',
    );
    expect(page.querySelector('svg')?.getAttribute('aria-label')).toContain('Verdict: 1 and 2 exchanged');
  });
});

describe('the plug as it is held', () => {
  const order = SCHEMES.T568B.order.map((conductor, i) => ({ contact: String(i + 1), conductor }));
  const across = (page: HTMLElement): string[] => texts(page, '.tag .contact');

  it('reads 1 to 8 latch down, and 8 to 1 latch up with the same colours on the same contacts', async () => {
    const down = await draw(PlugFace, { order, latch: 'down' });
    expect(across(down)).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
    expect(texts(down, '.tag .code')[0]).toBe('WH-OG');
    TestBed.resetTestingModule();
    const up = await draw(PlugFace, { order, latch: 'up' });
    expect(across(up)).toEqual(['8', '7', '6', '5', '4', '3', '2', '1']);
    expect(texts(up, '.tag .code')[7]).toBe('WH-OG');
    expect(up.querySelectorAll('.metal').length).toBe(0);
  });

  it('says the order from the top when the cable lies in a hand', async () => {
    const page = await draw(PlugFace, { order, cableFrom: 'right' });
    expect(page.querySelector('svg')?.getAttribute('aria-label')).toMatch(/from the top: 8 BN, 7 WH-BN/);
  });

  it('marks the contacts that slipped', async () => {
    const page = await draw(PlugFace, { order, slipped: ['3', '6'] });
    expect(texts(page, '.tag.slipped .contact')).toEqual(['3', '6']);
  });
});

describe('the mating face', () => {
  const order = SCHEMES.T568B.order.map((conductor, i) => ({ contact: String(i + 1), conductor }));

  it('of a plug, latch down, reads 8 to 1 from the left, and of the jack it enters 1 to 8', async () => {
    const plug = await draw(ConnectorFront, { order });
    expect(texts(plug, '.contact')).toEqual(['8', '7', '6', '5', '4', '3', '2', '1']);
    TestBed.resetTestingModule();
    const jack = await draw(ConnectorFront, { order, jack: true });
    expect(texts(jack, '.contact')).toEqual(['1', '2', '3', '4', '5', '6', '7', '8']);
    expect(texts(jack, '.code')[0]).toBe('WH-OG');
  });
});

describe('jack slots', () => {
  it('say which colour goes to which contact, row by row', async () => {
    const page = await draw(JackSlots, {
      connector: {
        slots: [
          { contact: '5', row: 'left', place: 0 },
          { contact: '8', row: 'right', place: 0 },
        ],
      },
      order: [
        { contact: '5', conductor: 'WH-BU' },
        { contact: '8', conductor: 'BN' },
      ],
    });
    expect(page.querySelector('svg')?.getAttribute('aria-label')).toBe(
      'Jack slots from the cable side. Left: WH-BU to contact 5. Right: BN to contact 8.',
    );
  });
});

describe('paint', () => {
  it('bands white mates and leaves unknown conductors plain', () => {
    expect(conductorPaint('WH-BU').band).toBe(conductorPaint('BU').base);
    expect(conductorPaint('none').band).toBeNull();
    expect(conductorCode('SCREEN')).toBe('screen');
    expect(conductorCode(null)).toBe('none');
  });
});
