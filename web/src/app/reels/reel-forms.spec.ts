import { TestBed } from '@angular/core/testing';
import type { NewReel, NewReelEntry, ReelRecord } from '@near-spoke/contracts';
import { showRoom, type Room } from '../testing/rooms';
import { FakeServer, refusal } from '../testing/server';
import { asTable, LEAD, shippedCable, someTrace } from '../testing/traces';
import { MeasureReel, type ReelMeasured } from './measure-reel';
import { NewReelForm } from './new-reel';
import { ReelsPage } from './reels-page';
import { standingOf } from './reels-store';

const rg6 = shippedCable('rg6');
const drum: ReelRecord = {
  id: 'r1',
  name: 'Drum one',
  kind: 'drum',
  cableTypeId: 'rg6',
  lot: 'L7',
  entries: [
    {
      id: 'e1',
      at: '2026-11-01T08:00:00.000Z',
      by: 'Tobi',
      what: 'labelled',
      lengthM: 100,
      u95M: null,
      velocityFactor: null,
      linkId: null,
      linkLabel: null,
      corrects: null,
      words: '',
    },
  ],
};
async function write<C>(room: Room<C>, label: string, text: string, event = 'input'): Promise<void> {
  const labels = [...room.page.querySelectorAll('label')];
  const field = labels
    .find((one) => one.textContent?.trim().startsWith(label))
    ?.querySelector('input, select');
  if (!field) throw new Error(`No field "${label}".`);
  (field as HTMLInputElement).value = text;
  field.dispatchEvent(new Event(event));
  await room.fixture.whenStable();
}
function button<C>(room: Room<C>, words: string): HTMLButtonElement {
  const all = [...room.page.querySelectorAll<HTMLButtonElement>('button')];
  return all.find((one) => one.textContent?.trim().startsWith(words)) as HTMLButtonElement;
}

describe('a drum or box being entered', () => {
  const show = async (server: FakeServer): Promise<{ room: Room<NewReelForm>; added: string[] }> => {
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(NewReelForm, { inputs: { cables: [rg6] } });
    const added: string[] = [];
    room.fixture.componentInstance.added.subscribe((id) => added.push(id));
    return { room, added };
  };

  it('may have no length on its label, but none that makes no sense', async () => {
    const { room } = await show(new FakeServer({}));
    expect(button(room, 'Enter it').disabled).toBeTrue();
    await write(room, 'Name', 'Box 3');
    expect(button(room, 'Enter it').disabled).toBeFalse();
    for (const odd of ['long', '-5', '0', '99999999']) {
      await write(room, 'Metres on the label', odd);
      expect(button(room, 'Enter it').disabled).withContext(odd).toBeTrue();
      expect(room.text('.wrong')).withContext(odd).not.toBe('');
    }
    await write(room, 'Metres on the label', '304,8');
    expect(button(room, 'Enter it').disabled).toBeFalse();
  });

  it('is entered once, however often the answer is lost', async () => {
    let lost = true;
    const server = new FakeServer({
      addReel: () => {
        if (lost) throw refusal('No answer', 0);
        return [drum];
      },
    });
    const { room, added } = await show(server);
    await write(room, 'Name', 'Box 3');
    await write(room, 'It is a', 'box', 'change');
    await write(room, 'Metres on the label', '304,8');
    button(room, 'Enter it').click();
    await room.settled();
    expect(added).toEqual([]);
    lost = false;
    button(room, 'Enter it').click();
    await room.settled();
    const [first, second] = server.sent('addReel').map((one) => one.body as NewReel);
    expect(second).toEqual(first as NewReel);
    expect([first?.name, first?.kind, first?.cableTypeId, first?.labelledM]).toEqual([
      'Box 3',
      'box',
      'rg6',
      304.8,
    ]);
    expect(added).toEqual([first?.id as string]);
  });
});

describe('a draw', () => {
  it('is taken from the reel once, however often the answer is lost', async () => {
    let lost = true;
    const server = new FakeServer({
      listReels: () => [drum],
      listVelocities: () => [],
      listJobs: () => [],
      addReelEntry: () => {
        if (lost) throw refusal('No answer', 0);
        return [drum];
      },
    });
    TestBed.configureTestingModule({ providers: [server.provider] });
    const room = await showRoom(ReelsPage, { inputs: { reelId: 'r1' } });
    await room.settled();
    await room.press('d');
    await write(room, 'Length cut off', '12,5');
    const enter = (): HTMLButtonElement =>
      room.page.querySelector('aside .form .main-action') as HTMLButtonElement;
    enter().click();
    await room.settled();
    expect(room.text('ns-problem-note')).toContain('No answer');
    lost = false;
    enter().click();
    await room.settled();
    const [first, second] = server.sent('addReelEntry').map((one) => one.body as NewReelEntry);
    expect(first?.lengthM).toBe(12.5);
    expect(second).toEqual(first as NewReelEntry);
    // The next draw is another.
    await room.press('d');
    await write(room, 'Length cut off', '12,5');
    enter().click();
    await room.settled();
    const third = server.sent('addReelEntry')[2]?.body as NewReelEntry;
    expect(third.id).not.toBe(first?.id as string);
  });
});

describe('what is left on a reel', () => {
  const show = async (): Promise<{ room: Room<MeasureReel>; measured: ReelMeasured[] }> => {
    TestBed.configureTestingModule({ providers: [new FakeServer({ benchScope: () => null }).provider] });
    const room = await showRoom(MeasureReel, {
      inputs: {
        reel: { reel: drum, standing: standingOf(drum) },
        cable: rg6,
        velocity: { velocityFactor: rg6.velocityFactor, u95: 0.004, from: 'catalogue', figure: null },
      },
    });
    const measured: ReelMeasured[] = [];
    room.fixture.componentInstance.measured.subscribe((one) => measured.push(one));
    return { room, measured };
  };
  const give = (room: Room<MeasureReel>, text: string): void => {
    const field = room.page.querySelector('input[type="file"]') as HTMLInputElement;
    const files = new DataTransfer();
    files.items.add(new File([text], 'drum.csv'));
    field.files = files.files;
    field.dispatchEvent(new Event('change'));
  };

  it('is where its inner end echoes, with what makes the interval', async () => {
    const { room, measured } = await show();
    await write(room, 'Lead', String(LEAD.lengthM), 'change');
    give(room, asTable(someTrace(rg6, 45, [])));
    await room.until(() => room.text('.answer') !== '');
    expect(Number(/^([\d.]+) m/.exec(room.text('.answer'))?.[1])).toBeCloseTo(45, 0);
    button(room, 'Enter it in the ledger').click();
    expect(measured[0]?.lengthM).toBeCloseTo(45, 0);
    expect(measured[0]?.u95M).toBeGreaterThan(0.1);
    expect(measured[0]?.name).toBe('drum.csv');
  });

  it('is not reckoned with a lead that is none', async () => {
    const { room } = await show();
    give(room, asTable(someTrace(rg6, 45, [])));
    await room.until(() => room.text('.answer') !== '');
    await write(room, 'Lead', '1 m', 'change');
    expect(room.text('.wrong')).toBe('Lead: write metres from 0 to 1000.');
    expect(room.page.querySelector('.answer')).toBeNull();
    expect(button(room, 'Enter it in the ledger')).toBeUndefined();
  });
});
