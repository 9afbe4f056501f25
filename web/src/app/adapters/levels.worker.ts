import {
  BadTrace,
  measureLevels,
  NoLevels,
  TraceFileReader,
  TraceQuestion,
  type Trace,
} from '@near-spoke/core';
import type { LevelsReply, LevelsRequest, SampleColumn } from './measuring';

/** Columns that the samples are drawn with. */
const COLUMNS = 360;
const say = (reply: LevelsReply): void => postMessage(reply);

addEventListener('message', ({ data }: MessageEvent<LevelsRequest>) => {
  void answer(data).catch((error: unknown) => {
    if (error instanceof TraceQuestion)
      say({ say: 'asks', asks: error.asks, message: error.message, choices: error.choices });
    else if (error instanceof BadTrace || error instanceof NoLevels)
      say({ say: 'bad', message: error.message });
    else throw error;
  });
});

async function answer({ file, options }: LevelsRequest): Promise<void> {
  const reader = new TraceFileReader(options);
  const decoder = new TextDecoder();
  const pieces = file.stream().getReader();
  let done = 0;
  for (let piece = await pieces.read(); !piece.done; piece = await pieces.read()) {
    reader.add(decoder.decode(piece.value, { stream: true }));
    done += piece.value.length;
    say({ say: 'progress', share: done / file.size });
  }
  const { trace } = reader.end();
  say({ say: 'read', levels: measureLevels(trace), columns: columnsOf(trace), samples: trace.volts.length });
}

/** Least and most of every column, so that no spike is lost in drawing. */
function columnsOf({ volts }: Trace): SampleColumn[] {
  const width = Math.max(1, Math.ceil(volts.length / COLUMNS));
  return Array.from({ length: Math.ceil(volts.length / width) }, (_, n) => {
    const some = volts.subarray(n * width, (n + 1) * width);
    return { leastV: some.reduce((a, b) => Math.min(a, b)), mostV: some.reduce((a, b) => Math.max(a, b)) };
  });
}
