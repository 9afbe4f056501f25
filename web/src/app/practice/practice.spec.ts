import { TestBed } from '@angular/core/testing';
import type { DrillAnswer, NewDrillAnswer, OwnPractice } from '@near-spoke/contracts';
import { calledFor, DRILL_KINDS, makeDrill, type DrillKind } from '@near-spoke/core/drills';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { By } from '@angular/platform-browser';
import { showRoom } from '../testing/rooms';
import { DrillLaying } from './drill-laying';
import { PracticePage } from './practice-page';
import { nextKind, standingsOf } from './schedule';

const DAY_MS = 24 * 3600 * 1000;
const START = new Date('2026-11-02T08:00:00Z').getTime();
const answered = (kind: DrillKind, ...days: [day: number, right: boolean][]): DrillAnswer[] =>
  days.map(([day, right], n) => ({
    id: `${kind} ${n}`,
    at: new Date(START + day * DAY_MS).toISOString(),
    kind,
    right,
  }));
const none = calledFor([]);

describe('when a drill comes again', () => {
  const due = (answers: DrillAnswer[], kind: DrillKind): number => {
    const found = standingsOf(answers).find((each) => each.kind === kind)?.due;
    return found ? (found.getTime() - START) / DAY_MS : NaN;
  };

  it('is later the oftener it was right, and soon after it was wrong', () => {
    const right = answered('how-far', [0, true], [1, true], [5, true]);
    const wrong = answered('how-far', [0, true], [1, true], [5, false]);
    expect(due(right, 'how-far') - 5).toBeGreaterThan(2);
    expect(due(wrong, 'how-far') - 5).toBeLessThan(1);
    expect(due(answered('how-far', [0, true]), 'how-far')).toBeLessThan(due(right, 'how-far'));
  });

  it('is the same wherever it is worked out', () => {
    const some = answered('which-die', [0, false], [0.01, true], [2, true]);
    expect(standingsOf(some)).toEqual(standingsOf(some));
  });
});

describe('what is asked next', () => {
  const at = (day: number): Date => new Date(START + day * DAY_MS);

  it('is what is due, then what work calls for, then what is new', () => {
    const answers = answered('how-far', [0, false]);
    expect(nextKind(standingsOf(answers), none, at(3))).toBe('how-far');
    const later = answered('how-far', [0, true], [1, true], [5, true]);
    const called = calledFor([{ slip: 'mirror', times: 2 }]);
    expect(['lay-the-eight', 'plug-turned', 'which-face']).toContain(
      nextKind(standingsOf(later), called, at(5.1)),
    );
    expect(nextKind(standingsOf(later), none, at(5.1))).toBe(DRILL_KINDS[0]);
  });

  it('is never the one just asked while there is another', () => {
    const all = DRILL_KINDS.flatMap((kind) => answered(kind, [0, true], [1, true]));
    for (const kind of DRILL_KINDS) expect(nextKind(standingsOf(all), none, at(1.2), kind)).not.toBe(kind);
  });
});

describe('the practice room', () => {
  const room = async (drill?: DrillKind) => {
    const kept: NewDrillAnswer[] = [];
    const own: OwnPractice = { answers: [], found: [{ slip: 'mirror', times: 2 }] };
    const call = (id: string, { body }: { body?: NewDrillAnswer }) => {
      if (body) kept.push(body);
      return of(id === 'crewPractice' ? { kinds: [{ kind: 'how-far', asked: 9, right: 4 }] } : own);
    };
    TestBed.overrideProvider(Api, { useValue: { call } });
    const shown = await showRoom(PracticePage, { role: 'lead', ...(drill ? { inputs: { drill } } : {}) });
    await shown.fixture.whenStable();
    return { ...shown, kept };
  };

  it('begins with what was missed at work, and tells a lead what the crew needs', async () => {
    const { text } = await room();
    expect(['Lay all eight', 'Plug turned over', 'Mating face or wiring side']).toContain(text('.drill p'));
    expect(text('aside')).toContain('missed at work');
    expect(text('aside')).toContain('4 of 9 right, all together');
  });

  it('takes an answer by its key, says why, keeps it, and goes on by one more', async () => {
    const { text, press, kept, page } = await room('how-far');
    await press('2');
    const [answer] = kept;
    if (!answer) throw new Error('nothing kept');
    expect([answer.kind, answer.chosen]).toEqual(['how-far', 1]);
    const drill = makeDrill(answer.kind, answer.seed);
    if (drill.by !== 'choice') throw new Error('nothing to choose');
    expect(text('.why')).toContain(drill.right === 1 ? 'Right.' : 'Not so.');
    expect(text('.why')).toContain(drill.reason);
    expect(page.querySelectorAll('.options .is-right').length).toBe(1);
    // A second answer to the same drill is none.
    await press('3');
    expect(kept.length).toBe(1);
    await press('PageDown');
    expect(text('.why')).toBe('');
  });

  it('has eight wires laid by their keys, one taken out and laid again, and says which lie wrong', async () => {
    const { text, press, kept, page } = await room('lay-the-eight');
    const names = (list: string): string[] =>
      [...page.querySelectorAll(`${list} .figure`)].map((each) => each.textContent?.trim() ?? '');
    const pile = names('.pile');
    expect(pile.length).toBe(8);
    await press('PageDown');
    expect(kept.length).withContext('before all lie').toBe(0);
    for (const key of ['3', '1', 'Backspace', '2', '1', '4', '5', '6', '7', '8']) await press(key);
    const laid = [2, 1, 0, 3, 4, 5, 6, 7];
    expect(names('.places')).toEqual(laid.map((n) => pile[n] ?? ''));
    await press('PageDown');
    const [answer] = kept;
    const drill = makeDrill('lay-the-eight', answer?.seed ?? 0);
    if (drill.by !== 'laying') throw new Error('nothing to lay');
    expect(answer?.laid).toEqual(laid);
    const off = laid.filter((piece, n) => piece !== drill.right[n]).length;
    expect(page.querySelectorAll('.places .is-wrong').length).toBe(off);
    expect(text('.why')).toContain(off > 0 ? 'Not so.' : 'Right.');
    await press('PageDown');
    expect(names('.places').join('')).toBe('');
  });

  it('has wires dragged into places, out again, and upon each other', async () => {
    const { page, fixture } = await room('lay-the-eight');
    const laying = fixture.debugElement.query(By.directive(DrillLaying)).componentInstance as unknown as {
      drop: (event: unknown) => void;
      laid: () => readonly (number | null)[];
    };
    const drag = async (from: number, to: number, piece: number): Promise<readonly (number | null)[]> => {
      laying.drop({ previousContainer: { data: from }, container: { data: to }, item: { data: piece } });
      await fixture.whenStable();
      return laying.laid();
    };
    expect((await drag(-1, 5, 3))[5]).toBe(3);
    expect((await drag(-1, 0, 6)).filter((piece) => piece !== null)).toEqual([6, 3]);
    // Upon another: they change places; one from the pile sends what lay there back.
    const changed = await drag(5, 0, 3);
    expect([changed[0], changed[5]]).toEqual([3, 6]);
    expect((await drag(-1, 0, 1))[0]).toBe(1);
    expect(page.querySelectorAll('.pile button').length).toBe(6);
    expect((await drag(5, -1, 6))[5]).toBeNull();
  });

  it('draws what it asks about, and never says the number that is asked for', async () => {
    for (const kind of ['plug-turned', 'which-face', 'what-the-map-shows', 'read-a-trace'] as const) {
      TestBed.resetTestingModule();
      const { page } = await room(kind);
      const svg = page.querySelector('ns-drill-picture svg');
      expect(svg).withContext(kind).not.toBeNull();
      if (kind === 'which-face') expect(svg?.textContent?.trim()).toBe('?');
    }
  });
});
