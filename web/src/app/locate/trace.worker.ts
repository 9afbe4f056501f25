import {
  forFirstLook,
  BadTrace,
  imperfect,
  impedanceProfile,
  roundTripS,
  NoLaunch,
  readTrace,
  seededRandom,
  simulate,
  takeApart,
  TraceFileReader,
  TraceQuestion,
  type Trace,
  type TraceReading,
  type TraceSetting,
  type Understood,
} from '@near-spoke/core';
import type { TraceAnswer, TraceReply, TraceRequest } from './tracing';

const say = (reply: TraceReply): void => postMessage(reply);

addEventListener('message', ({ data }: MessageEvent<TraceRequest>) => {
  void answer(data).catch((error: unknown) => {
    if (error instanceof TraceQuestion)
      say({ say: 'asks', asks: error.asks, message: error.message, choices: error.choices });
    else if (error instanceof BadTrace || error instanceof NoLaunch)
      say({ say: 'bad', message: error.message });
    else throw error;
  });
});

async function answer(request: TraceRequest): Promise<void> {
  if (request.ask === 'trace') {
    read(request.trace, request.setting, null);
    return;
  }
  if (request.ask === 'simulated') {
    const { network, sampling, imperfections, seed } = request.bench;
    read(imperfect(simulate(network, sampling), imperfections, seededRandom(seed)), request.setting, null);
    return;
  }
  const reader = new TraceFileReader(request.options);
  const decoder = new TextDecoder();
  const pieces = request.file.stream().getReader();
  let done = 0;
  for (let piece = await pieces.read(); !piece.done; piece = await pieces.read()) {
    reader.add(decoder.decode(piece.value, { stream: true }));
    done += piece.value.length;
    say({ say: 'progress', share: done / request.file.size, words: 'Reading the file' });
  }
  const { trace, understood } = reader.end();
  read(trace, request.setting, understood);
}

/** Echo by echo at once, of a fine record less finely; then as a whole, which tells kinds far better and takes longer. */
function read(trace: Trace, setting: TraceSetting, understood: Understood | null): void {
  const looked = forFirstLook(trace, setting.shape);
  const glance = looked === trace ? setting : { ...setting, hasty: true };
  const seen = takeApart(looked, glance);
  const first = answerOf(readTrace(looked, glance, undefined, seen), setting);
  say({ say: 'first', answer: first, understood, trace });
  const apart = looked === trace ? seen : takeApart(trace, setting);
  const words = 'Explaining the whole trace';
  say({ say: 'progress', share: 0, words });
  const reading = readTrace(
    trace,
    { ...setting, thorough: true },
    (share) => say({ say: 'progress', share, words }),
    apart,
  );
  say({ say: 'read', answer: answerOf(reading, setting), understood, trace });
}

function answerOf({ explained, ...reading }: TraceReading, setting: TraceSetting): TraceAnswer {
  const { trace: seen, fit, launch, modelV } = explained;
  const { lead } = setting;
  const leadS = roundTripS(lead.lengthM, lead.velocityFactor);
  return {
    reading,
    seen,
    modelV,
    profile: impedanceProfile(explained, setting.line.impedanceOhm, leadS),
    nominalOhm: setting.line.impedanceOhm,
    launchAtS: seen.startS + fit.launch.at * seen.intervalS,
    launchV: fit.launch.height,
    levelV: launch.baselineV + fit.level,
  };
}
