import { InjectionToken } from '@angular/core';
import type { Folded, ToFold } from './fold';
import { keepsNoPages } from './kept-pages';

/** A record that takes longer to judge is left to the server. */
const LONGEST_MS = 15_000;

/** Adds a record to what is known of a link, away from the page. */
export const FOLD = new InjectionToken<(one: ToFold) => Promise<Folded>>('fold', {
  providedIn: 'root',
  factory: () => {
    let worker: Worker | null = null;
    let last = 0;
    const open = new Map<number, { resolve: (folded: Folded) => void; reject: (error: Error) => void }>();
    const end = (words: string): void => {
      worker?.terminate();
      worker = null;
      for (const { reject } of open.values()) reject(new Error(words));
      open.clear();
    };
    const begin = (): Worker => {
      const begun = new Worker(new URL('./fold.worker', import.meta.url), { type: 'module' });
      begun.onmessage = ({ data }: MessageEvent<{ number: number; folded?: Folded; failed?: string }>) => {
        const waits = open.get(data.number);
        open.delete(data.number);
        if (data.folded) waits?.resolve(data.folded);
        else waits?.reject(new Error(data.failed));
      };
      begun.onerror = ({ message }) => end(message || 'What judges could not be loaded.');
      return begun;
    };
    // Where a browser keeps no pages it is fetched while there is a network.
    if (keepsNoPages()) worker = begin();
    return (one) =>
      new Promise<Folded>((resolve, reject) => {
        const number = ++last;
        const timer = setTimeout(() => end('It took too long to judge on this device.'), LONGEST_MS);
        const done = (): void => clearTimeout(timer);
        open.set(number, {
          resolve: (folded) => (done(), resolve(folded)),
          reject: (error) => (done(), reject(error)),
        });
        worker ??= begin();
        worker.postMessage({ number, one });
      });
  },
});
