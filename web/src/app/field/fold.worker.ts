import { fold, type ToFold } from './fold';

/** Folds one record after another, away from the page: checking and judging bring the whole of core. */
addEventListener('message', ({ data }: MessageEvent<{ number: number; one: ToFold }>) => {
  try {
    postMessage({ number: data.number, folded: fold(data.one) });
  } catch (error) {
    postMessage({ number: data.number, failed: (error as Error).message });
  }
});
