import { diagnose, type Evidence, type LinkExpectation } from '@near-spoke/core';

/** Judges many links away from the page; says after each how far it is. Stopped by ending the worker. */
addEventListener(
  'message',
  ({ data }: MessageEvent<{ items: { expected: LinkExpectation; evidence: Evidence[] }[] }>) => {
    data.items.forEach(({ expected, evidence }, index) => {
      const { result, headline } = diagnose(expected, evidence);
      postMessage({ index, result, headline });
    });
  },
);
