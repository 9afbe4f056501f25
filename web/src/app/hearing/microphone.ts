import { InjectionToken } from '@angular/core';

/** An open microphone. */
export interface OpenMicrophone {
  sampleHz: number;
  close(): void;
}

/** Samples from -1 to 1; where sound was lost before them, so many samples of it. */
export type Samples = (samples: Float32Array, lost: number) => void;

/** Why a microphone could not be opened, in words. */
export class NoMicrophone extends Error {}

const TROUBLES: Readonly<Record<string, string>> = {
  NotAllowedError:
    'The browser was not allowed to use the microphone. Allow it beside the address, then press Listen again; the keys work without it.',
  NotFoundError: 'This device has no microphone. The keys and a foot switch work without one.',
  NotReadableError: 'Another program uses the microphone. Close that, then press Listen again.',
};
const INSECURE = 'Browsers give the microphone only to pages over HTTPS, or on the machine itself.';
const OTHER = 'The microphone could not be started. Press Listen again, or go on with the keys.';
/** Samples may come a block late without any being lost. */
const BLOCK = 128;

/** Opens the microphone as it is: without what browsers do to make voices clear, which takes beeps for noise. */
export const MICROPHONE = new InjectionToken<(heard: Samples) => Promise<OpenMicrophone>>('microphone', {
  providedIn: 'root',
  factory: () => open,
});

async function open(heard: Samples): Promise<OpenMicrophone> {
  // Outside a secure page there is no such thing, whatever the types say.
  const devices = navigator.mediaDevices as MediaDevices | undefined;
  if (!devices || typeof AudioWorkletNode === 'undefined') throw new NoMicrophone(INSECURE);
  let stream: MediaStream;
  try {
    stream = await devices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 },
    });
  } catch (error) {
    throw new NoMicrophone(TROUBLES[(error as DOMException).name] ?? OTHER);
  }
  const stop = (): void => {
    for (const track of stream.getTracks()) track.stop();
  };
  const context = new AudioContext();
  try {
    await context.audioWorklet.addModule('/frames.worklet.js');
    await context.resume();
  } catch {
    stop();
    void context.close();
    throw new NoMicrophone(OTHER);
  }
  const source = context.createMediaStreamSource(stream);
  const frames = new AudioWorkletNode(context, 'near-spoke-frames', { numberOfOutputs: 0 });
  let next: number | null = null;
  frames.port.onmessage = ({ data }: MessageEvent<{ from: number; samples: Float32Array }>) => {
    const lost = next === null ? 0 : data.from - next;
    next = data.from + data.samples.length;
    heard(data.samples, lost > BLOCK ? lost : 0);
  };
  source.connect(frames);
  return {
    sampleHz: context.sampleRate,
    close: () => {
      frames.port.onmessage = null;
      source.disconnect();
      stop();
      void context.close();
    },
  };
}
