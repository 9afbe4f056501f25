import type {
  Imperfections,
  Network,
  Sampling,
  Profile,
  Trace,
  TraceFileOptions,
  TraceReading,
  TraceSetting,
  Understood,
} from '@near-spoke/core';

/** What a reading comes back as from the worker: all that is drawn, nothing that was only needed to fit. */
export interface TraceAnswer {
  reading: Omit<TraceReading, 'explained'>;
  /** The trace as it was fitted, with what the fit gives, sample by sample. */
  seen: Trace;
  modelV: Float64Array;
  /** Impedance along the line. */
  profile: Profile;
  nominalOhm: number;
  /** Middle of the launch's leading edge, seconds on the trace's own time. */
  launchAtS: number;
  launchV: number;
  levelV: number;
}

export type TraceRequest =
  | { ask: 'file'; file: Blob; options: TraceFileOptions; setting: TraceSetting }
  | { ask: 'trace'; trace: Trace; setting: TraceSetting }
  /** A trace is drawn by the forward model first, then read as any other. */
  | { ask: 'simulated'; bench: SimulatedBench; setting: TraceSetting };

/** A bench set-up to simulate. */
export interface SimulatedBench {
  network: Network;
  sampling: Sampling;
  imperfections: Imperfections;
  seed: number;
}

/** What the worker says: how far it is, and at the end one of the rest. */
export type TraceReply =
  | { say: 'progress'; share: number; words: string }
  /** What it looks like at first sight; more follows. */
  | { say: 'first'; answer: TraceAnswer; understood: Understood | null; trace: Trace }
  | { say: 'read'; answer: TraceAnswer; understood: Understood | null; trace: Trace }
  | { say: 'asks'; asks: 'interval' | 'channel' | 'time unit'; message: string; choices: readonly string[] }
  | { say: 'bad'; message: string };

/** A reading under way. */
export interface Tracing {
  cancel(): void;
}

/** Reads a trace in a web worker, which ends with the answer or when it is cancelled. */
export function readInWorker(request: TraceRequest, heard: (reply: TraceReply) => void): Tracing {
  const worker = new Worker(new URL('./trace.worker', import.meta.url), { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<TraceReply>) => {
    heard(data);
    if (data.say !== 'progress' && data.say !== 'first') worker.terminate();
  };
  worker.onerror = () => {
    heard({ say: 'bad', message: 'The trace could not be worked through. Take it again.' });
    worker.terminate();
  };
  worker.postMessage(request);
  return { cancel: () => worker.terminate() };
}
