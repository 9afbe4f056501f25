import type { MeasuredLevels, TraceFileOptions } from '@near-spoke/core';

export interface LevelsRequest {
  file: Blob;
  options: TraceFileOptions;
}

/** Least and most of the samples that are drawn in one column. */
export interface SampleColumn {
  leastV: number;
  mostV: number;
}

export type LevelsReply =
  | { say: 'progress'; share: number }
  | { say: 'read'; levels: MeasuredLevels; columns: SampleColumn[]; samples: number }
  | { say: 'asks'; asks: 'interval' | 'channel' | 'time unit'; message: string; choices: readonly string[] }
  | { say: 'bad'; message: string };

/** Measures a signal line's levels in a web worker, which ends with the answer or when it is cancelled. */
export function measureInWorker(request: LevelsRequest, heard: (reply: LevelsReply) => void): () => void {
  const worker = new Worker(new URL('./levels.worker', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<LevelsReply>) => {
    heard(data);
    if (data.say !== 'progress') worker.terminate();
  };
  worker.onerror = () => {
    heard({ say: 'bad', message: 'The file could not be worked through. Export it again.' });
    worker.terminate();
  };
  worker.postMessage(request);
  return () => worker.terminate();
}
