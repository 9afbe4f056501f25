import type { Link } from '@near-spoke/contracts';
import type { Station } from '../header';
import { STOPS } from './rooms';

/** Stops with a page of their own; the others show a job's links that wait there. */
const PAGES: Readonly<Record<string, string>> = { plan: 'plan', 'hand-over': 'hand-over' };

/** A job's line of stages in the header. */
export const jobStations = (
  jobId: string,
  links: readonly Pick<Link, 'stage'>[],
  here: string | undefined,
): Station[] =>
  STOPS.map(({ id, name }) => {
    const page = PAGES[id];
    return {
      name,
      link: page ? ['/jobs', jobId, page] : ['/jobs', jobId],
      ...(page ? {} : { query: { at: id } }),
      reached: links.length > 0 && stopReached(id, links),
      here: id === here,
    };
  });

/** A stop is reached when some link has come that far. */
function stopReached(stop: string, links: readonly Pick<Link, 'stage'>[]): boolean {
  if (stop === 'plan') return true;
  if (stop === 'terminate') return links.some((l) => l.stage !== 'planned');
  if (stop === 'verify') return links.some((l) => ['failed', 'proved', 'handed-over'].includes(l.stage));
  return links.some((l) => l.stage === 'handed-over');
}
