import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Preferences } from './preferences';
import { Tones } from './tones';

const KEY = 'near-spoke-preferences';

/** How a browser with this in its memory begins. */
function begin(kept: string | null): InstanceType<typeof Preferences> {
  localStorage.clear();
  if (kept !== null) localStorage.setItem(KEY, kept);
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
  return TestBed.inject(Preferences);
}

describe('preferences', () => {
  afterEach(() => {
    localStorage.clear();
    delete document.documentElement.dataset['theme'];
  });

  it('begin as most people work: right hand, latch away, sound on', () => {
    const { theme, latch, face, sound } = begin(null);
    expect([theme(), latch(), face(), sound()]).toEqual(['as the system', 'down', 'rear', true]);
  });

  it('are found again in this browser', () => {
    const before = begin(null);
    before.turnLatch();
    before.holdCable('left');
    before.putInTool('coax-die', '8.23');
    before.putInTool('blade', '110');
    TestBed.tick();
    const after = begin(localStorage.getItem(KEY));
    expect([after.latch(), after.cableFrom(), after.inTool()]).toEqual([
      'up',
      'left',
      { 'coax-die': '8.23', blade: '110' },
    ]);
  });

  it('turn the theme round in three steps, and the page with it', () => {
    const preferences = begin(null);
    const seen = [1, 2, 3].map(() => {
      preferences.nextTheme();
      TestBed.tick();
      return [preferences.theme(), document.documentElement.dataset['theme']];
    });
    expect(seen).toEqual([
      ['light', 'light'],
      ['dark', 'dark'],
      ['as the system', undefined],
    ]);
  });

  it('take what makes no sense for nothing', () => {
    for (const odd of ['{"latch":', 'null', '[]', '"dark"', '7', '{"theme":"loud","latch":"sideways"}'])
      expect([begin(odd).theme(), begin(odd).latch(), begin(odd).sound()])
        .withContext(odd)
        .toEqual(['as the system', 'down', true]);
  });

  it('keep what is known where a part of it makes no sense', () => {
    const { sound, cableFrom } = begin('{"sound":false,"cableFrom":"above","old":1}');
    expect([sound(), cableFrom()]).toEqual([false, 'below']);
  });

  it('work on where the browser keeps nothing', () => {
    const preferences = begin(null);
    spyOn(Storage.prototype, 'setItem').and.throwError('full');
    preferences.toggleSound();
    TestBed.tick();
    expect(preferences.sound()).toBeFalse();
  });
});

describe('tones', () => {
  /** The frequencies that were asked for, from and to, of each tone. */
  function listen(sound: boolean): { tones: Tones; heard: number[][] } {
    const preferences = begin(null);
    if (!sound) preferences.toggleSound();
    const heard: number[][] = [];
    spyOn(AudioParam.prototype, 'setValueAtTime').and.callFake(function (this: AudioParam, value: number) {
      if (value > 20) heard.push([value]);
      return this;
    });
    spyOn(AudioParam.prototype, 'exponentialRampToValueAtTime').and.callFake(function (
      this: AudioParam,
      value: number,
    ) {
      if (value > 20) heard.at(-1)?.push(value);
      return this;
    });
    return { tones: TestBed.inject(Tones), heard };
  }

  it('rise for right, fall for wrong, and stay level while nothing is decided', () => {
    const { tones, heard } = listen(true);
    tones.verdict('pass');
    tones.verdict('fail');
    tones.verdict('cannot-tell');
    tones.verdict(undefined);
    expect(heard.map(([from = 0, to = 0]) => Math.sign(to - from))).toEqual([1, -1, 0, 0]);
  });

  it('are silent where a person wants that', () => {
    const { tones, heard } = listen(false);
    tones.right();
    tones.wrong();
    expect(heard).toEqual([]);
  });
});
