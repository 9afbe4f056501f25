import { InjectionToken } from '@angular/core';
import type { TogetherState } from '@near-spoke/contracts';

/** What is heard of a proof by two: its states, and whether the connection stands. */
export interface Heard {
  state(state: TogetherState): void;
  connected(stands: boolean): void;
}

/** Opens the events of an address, and comes back by itself when they are lost. Answers what closes them. */
export type OpenEvents = (address: string, heard: Heard) => () => void;

/** A source that gave up, because the server was not there, is opened anew after this long. */
const AGAIN_MS = 2000;

export const OPEN_EVENTS = new InjectionToken<OpenEvents>('OPEN_EVENTS', {
  providedIn: 'root',
  factory: () => (address, heard) => {
    let source: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    const open = (): void => {
      source = new EventSource(address);
      source.onopen = () => heard.connected(true);
      source.onmessage = ({ data }: MessageEvent<string>) => heard.state(JSON.parse(data) as TogetherState);
      source.onerror = () => {
        heard.connected(false);
        if (source.readyState === EventSource.CLOSED) again = setTimeout(open, AGAIN_MS);
      };
    };
    open();
    return () => {
      clearTimeout(again);
      source.close();
    };
  },
});
