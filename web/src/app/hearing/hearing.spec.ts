import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatButtonToggleHarness } from '@angular/material/button-toggle/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { showRoom } from '../testing/rooms';
import { ListenPanel } from './listen-panel';
import { MICROPHONE, NoMicrophone, type Samples } from './microphone';

const SAMPLE_HZ = 48_000;

/** Hands with a meter of 2.9 kHz: when it sounds, seconds from and to. */
function hands(seconds: number, touches: readonly (readonly [number, number])[]): Float32Array {
  const out = new Float32Array(seconds * SAMPLE_HZ);
  let seed = 3;
  for (let n = 0; n < out.length; n++) {
    seed = (seed * 1103515245 + 12345) % 2147483648;
    out[n] = 0.002 * (seed / 1073741824 - 1);
  }
  for (const [from, to] of touches)
    for (let n = Math.round(from * SAMPLE_HZ); n < to * SAMPLE_HZ; n++)
      out[n] = (out[n] ?? 0) + 0.2 * Math.sin((2 * Math.PI * 2900 * n) / SAMPLE_HZ);
  return out;
}
const TEACH = [
  [1, 1.6],
  [2.2, 2.8],
  [3.4, 4],
] as const;

@Component({
  selector: 'ns-asks',
  imports: [ListenPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<ns-listen-panel
    [asks]="asks"
    (answered)="said.push($event)"
    (takenBack)="said.push('back')"
  />`,
})
class Asks {
  readonly asks = true;
  readonly said: (boolean | 'back')[] = [];
}

describe('listening', () => {
  const panel = async (refuses = '') => {
    let heard: Samples = () => undefined;
    let closed = 0;
    TestBed.overrideProvider(MICROPHONE, {
      useValue: (samples: Samples) => {
        heard = samples;
        return refuses
          ? Promise.reject(new NoMicrophone(refuses))
          : Promise.resolve({ sampleHz: SAMPLE_HZ, close: () => closed++ });
      },
    });
    const room = await showRoom(Asks);
    const button = (text: RegExp) => room.loader.getHarness(MatButtonHarness.with({ text }));
    const play = async (sound: Float32Array, lost = 0): Promise<void> => {
      for (let from = 0; from < sound.length; from += 960)
        heard(sound.slice(from, from + 960), from === 0 ? lost : 0);
      await room.fixture.whenStable();
    };
    await (await button(/^Listen/)).click();
    await room.fixture.whenStable();
    return { ...room, button, play, said: room.fixture.componentInstance.said, closed: () => closed };
  };

  it('is taught by three touches, then answers for the hands', async () => {
    const { text, play, said } = await panel();
    expect(text('ns-listen-panel')).toContain('0 of 3');
    await play(hands(5, TEACH));
    expect(text('ns-listen-panel')).toContain('your beeper, 2.90 kHz');
    await play(
      hands(9, [
        [1, 1.8],
        [3, 3.15],
        [3.4, 3.55],
        [5.5, 5.6],
        [5.9, 6],
        [6.3, 6.4],
      ]),
    );
    expect(said).toEqual([true, false, 'back']);
  });

  it('remembers the tone, and learns another where it is told to', async () => {
    const first = await panel();
    await first.play(hands(5, TEACH));
    await (await first.button(/^Stop listening/)).click();
    expect(first.closed()).toBe(1);
    await (await first.button(/^Listen/)).click();
    expect(first.text('ns-listen-panel')).toContain('your beeper');
    await (await first.button(/^Another meter/)).click();
    expect(first.text('ns-listen-panel')).toContain('0 of 3');
  });

  it('asks where it is not sure, and takes nothing for an answer where sound was lost', async () => {
    const { text, play, said } = await panel();
    await play(hands(5, TEACH));
    await play(hands(3, [[1, 1.15]]));
    expect(text('[role=status]')).toContain('Hold it for half a second, or tap twice');
    await play(hands(0.5, [[0.3, 0.5]]));
    await play(hands(2, []), 4800);
    expect(said).toEqual([]);
  });

  it('says in words why there is no microphone, and goes on without', async () => {
    const { text } = await panel('This device has no microphone.');
    expect(text('[role=status]')).toBe('This device has no microphone.');
    expect(text('button')).toContain('Listen');
  });

  it('says so where the microphone is muted', async () => {
    const { text, play } = await panel();
    await play(new Float32Array(3 * SAMPLE_HZ));
    expect(text('[role=status]')).toContain('gives no sound at all');
    await play(hands(1, []));
    expect(text('[role=status]')).toBe('');
  });
});

describe('reading aloud', () => {
  const voice = (name: string, lang: string): SpeechSynthesisVoice =>
    ({ name, lang, default: false, localService: true, voiceURI: name }) as SpeechSynthesisVoice;
  let said: SpeechSynthesisUtterance[];
  const show = async (voices: SpeechSynthesisVoice[]) => {
    said = [];
    spyOn(speechSynthesis, 'getVoices').and.returnValue(voices);
    spyOn(speechSynthesis, 'speak').and.callFake((words) => void said.push(words));
    spyOn(speechSynthesis, 'cancel');
    const room = await showRoom(Asks);
    const press = async (words: string): Promise<void> =>
      (await room.loader.getHarness(MatButtonHarness.with({ text: new RegExp(words) }))).click();
    return { room, press };
  };

  it('is off until it is wanted, and then says the words at the pace that is chosen', async () => {
    const { room, press } = await show([]);
    expect(room.page.querySelector('ns-voice-choice')).toBeNull();
    await press('Read aloud: off');
    expect(room.text('ns-voice-choice')).toContain('no English voice');
    const [slow, , quick] = await room.loader.getAllHarnesses(MatButtonToggleHarness);
    await quick?.check();
    await slow?.check();
    expect(said.map(({ rate }) => rate.toFixed(1))).toEqual(['1.5', '0.8']);
    await press('Read aloud: on');
    expect(room.page.querySelector('ns-voice-choice')).toBeNull();
  });

  it('has a voice chosen among those that speak English, and keeps to it', async () => {
    const { room, press } = await show([
      voice('Ada', 'en-GB'),
      voice('Bruno', 'de-DE'),
      voice('Cleo', 'en-US'),
    ]);
    await press('Read aloud: off');
    const select = await room.loader.getHarness(MatSelectHarness);
    await select.open();
    const names = await Promise.all((await select.getOptions()).map((option) => option.getText()));
    expect(names.slice(1)).toEqual(['Ada', 'Cleo']);
    await select.close();
    expect(await select.getValueText()).toBe('the browser’s own choice');
  });
});
