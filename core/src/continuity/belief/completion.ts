import { inflict, type Effect } from '../faults.js';
import type { Frame } from '../frame.js';
import { LinkState } from '../link-state.js';
import { wiringsThatGive } from '../proposals.js';
import { isMapReading } from '../readings.js';
import type { LinkEnd } from '../true-link.js';
import type { Session, Suspect } from './weighing.js';

const ENDS: readonly LinkEnd[] = ['near', 'far'];
const changesOrder = ({ does }: Effect): boolean =>
  does === 'reorder' || does === 'wire' || does === 'splice';

/**
 * What has to lie at an end, besides what is thought of already, for a map to read as it was read: a change of
 * order at one end and one at the other hide each other, so that neither alone looks like the map, and no bound on
 * single rows tells the one that fits from the thousands that do not. What is left is read off instead.
 */
export class Completions {
  /** An end and its wiring -> changes of order that make it, one after another in one make of that end. */
  private readonly making = new Map<string, Suspect[]>();

  constructor(
    private readonly frame: Frame,
    private readonly base: LinkState,
    suspects: readonly Suspect[],
  ) {
    const state = new LinkState(frame);
    for (const suspect of suspects) {
      const [part] = suspect.parts;
      if (!part || suspect.parts.length > 1 || !part.fault.effects.every(changesOrder)) continue;
      inflict(state.become(base), part.fault);
      for (const end of ENDS) {
        const wiring = this.wiringAt(state, end);
        if (wiring === this.wiringAt(base, end)) continue;
        const key = `${end}|${wiring}`;
        this.making.set(key, [...(this.making.get(key) ?? []), suspect]);
      }
    }
  }

  /** Changes of order that would complete a link in some state to what a session's maps show. */
  of(state: LinkState, { slots, witnesses }: Session): Suspect[] {
    return witnesses.flatMap(({ reading }) => {
      if (!isMapReading(reading)) return [];
      return ENDS.flatMap((end) => {
        const now = this.wiringAt(state, end);
        if (now !== this.wiringAt(this.base, end)) return [];
        const wanted = wiringsThatGive(this.frame, state, reading, end).map((wiring) => wiring.join());
        return wanted
          .filter((wiring) => wiring !== now)
          .flatMap((wiring) => this.making.get(`${end}|${wiring}`) ?? [])
          .filter(({ parts }) => parts.every(({ slot }) => slots.has(slot)));
      });
    });
  }

  /** The conductors at an end as a map sees them: a splice is as good as an exchange at either end. */
  private wiringAt({ cells }: LinkState, end: LinkEnd): string {
    const { at, contacts } = this.frame;
    return contacts[end]
      .map((_, c) => {
        const w = cells[at[end] + c] as number;
        return w < 0
          ? -1
          : end === 'near'
            ? (cells[at.splice + w] as number)
            : cells.indexOf(w, at.splice) - at.splice;
      })
      .join();
  }
}
