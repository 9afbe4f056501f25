import type { Diagnosis, Evidence, LinkExpectation } from '@near-spoke/core';

export type Judged = Pick<Diagnosis, 'result' | 'headline'>;

/** A batch of links being judged in a worker. */
export interface Batch {
  cancel(): void;
}

/** Judges many links in a web worker: each as it is ready, and the word when all are. */
export function judgeMany(
  items: readonly { expected: LinkExpectation; evidence: readonly Evidence[] }[],
  each: (index: number, judged: Judged) => void,
  done: () => void,
): Batch {
  const worker = new Worker(new URL('./diagnosis.worker', import.meta.url), { type: 'module' });
  let left = items.length;
  worker.onmessage = ({ data }: MessageEvent<Judged & { index: number }>) => {
    each(data.index, data);
    left--;
    if (left > 0) return;
    worker.terminate();
    done();
  };
  if (items.length === 0) {
    worker.terminate();
    done();
  } else worker.postMessage({ items });
  return { cancel: () => worker.terminate() };
}
