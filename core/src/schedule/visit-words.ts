import type { Visit } from './plan-days.js';
import type { TaskKind } from './tasks.js';

/** What is done on a visit, in words. */
export function visitWords({ kind, places, labels }: Pick<Visit, 'kind' | 'places' | 'labels'>): string {
  const [first = '', second = ''] = places;
  const some = (one: string): string => (labels.length === 1 ? `one ${one}` : `${labels.length} ${one}s`);
  const words: Record<TaskKind, string> = {
    pull: `Pull ${some('cable')} from ${first} to ${second}`,
    near: `Make ${some('end')} in ${first}`,
    far: `Make ${some('end')} in ${first}`,
    test: `Test and label ${some('link')} between ${first} and ${second}`,
  };
  return words[kind];
}

/** A minute of the day as 08:05, to the nearest minute. */
export function clockWords(minute: number): string {
  const whole = Math.round(minute);
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}
