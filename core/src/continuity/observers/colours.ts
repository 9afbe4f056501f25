import type { ConductorId } from '../../cabling/conductors.js';
import type { Random } from '../../quantities/random.js';
import { INSTRUMENTS } from '../instruments.js';
import type { Frame } from '../frame.js';
import { OPEN, type LinkState } from '../link-state.js';
import { isUnread, type ColourReading } from '../readings.js';
import type { Likelihood, Observer } from './observer.js';

const { errors } = INSTRUMENTS.eye;

/** Share of wires that miss their contact of which nothing is to be seen there: cut short, or left in the jacket. */
const SHORT_OF_IT = 0.2;

/** A contact whose colour cannot be read although something lies there: one of several, or of an end that cannot be read at all. */
const UNREADABLE = { here: 0.01, anywhere: 0.5 };

/** Colours seen on the contacts of an end: through a plug, in a jack's slots, at a terminal. */
export const colourObserver: Observer<ColourReading> = {
  read({ frame, state }, { end }, random) {
    const colours = frame.contacts[end].map((contact, c) => {
      const conductor = frame.conductors[state.cells[frame.at[end] + c] as number] ?? null;
      if (!random || conductor === null) return [contact, conductor] as const;
      return [contact, misread(frame, conductor, random)] as const;
    });
    const empty = colours.flatMap(([contact, conductor]) => (conductor === null ? [contact] : []));
    return {
      instrument: 'eye',
      end,
      colours: Object.fromEntries(colours),
      ...(empty.length > 0 ? { empty } : {}),
    };
  },
  likelihood: (frame, reading, group) => new ColourLikelihood(frame, reading, group),
  grouped: () => true,
};

/** The conductors of a cable that a tired eye may take for one of them: those of the same make, striped or plain. */
function alikeTo(conductors: readonly ConductorId[], conductor: ConductorId): readonly ConductorId[] {
  const striped = (id: ConductorId): boolean => id.includes('-');
  return conductors.filter((other) => other !== conductor && striped(other) === striped(conductor));
}

function misread(frame: Frame, conductor: ConductorId, random: Random): ConductorId {
  const draw = random();
  const alike = alikeTo(frame.conductors, conductor);
  if (draw < errors.wrong && alike.length > 0)
    return alike[Math.floor(random() * alike.length)] as ConductorId;
  if (draw > 1 - errors.ghost)
    return frame.conductors[Math.floor(random() * frame.conductors.length)] as ConductorId;
  return conductor;
}

/** What was seen on a contact, as far as it tells. */
interface Sighting {
  cell: number;
  seat: number;
  /** Logarithm of its likelihood by the conductor that lies there, the last place standing for nothing at all. */
  row: Float64Array;
}

class ColourLikelihood implements Likelihood {
  readonly best: number;
  private readonly seen: readonly Sighting[];

  constructor(frame: Frame, reading: ColourReading, group?: number) {
    const { end } = reading;
    const n = frame.conductors.length;
    const hit = 1 - errors.wrong - errors.ghost;
    const all = Object.values(reading.colours);
    const blank = all.filter((colour) => colour === null).length > all.length / 2;
    const unreadable = blank ? UNREADABLE.anywhere : UNREADABLE.here;
    this.seen = Object.entries(reading.colours).flatMap(([contact, colour]) => {
      const index = frame.contactIndex(end, contact);
      if (index < 0 || (group !== undefined && frame.group[end][index] !== group)) return [];
      const seen = colour === null ? -1 : frame.conductorIndex(colour);
      const unread = isUnread(reading, contact);
      const row = Float64Array.from({ length: n + 1 }, (_, real) => {
        const there = real === n ? -1 : real;
        if (there === seen) return Math.log(hit);
        if (unread) return Math.log(unreadable);
        if (seen === -1) return Math.log(errors.ghost);
        if (there === -1) return Math.log(errors.ghost);
        const alike = alikeTo(frame.conductors, frame.conductors[there] as string);
        const taken = alike.includes(frame.conductors[seen] as string);
        return Math.log((taken ? errors.wrong / alike.length : 0) + errors.ghost / n);
      });
      const { at } = frame;
      return [{ cell: at[end] + index, seat: (end === 'near' ? at.nearSeat : at.farSeat) + index, row }];
    });
    this.best = this.seen.length * Math.log(hit);
  }

  of(state: LinkState): number {
    let sum = 0;
    for (const { cell, seat, row } of this.seen) {
      const there = state.cells[cell] as number;
      const bare = row[row.length - 1] as number;
      if (there < 0) sum += bare;
      else if (state.cells[seat] !== OPEN) sum += row[there] as number;
      else sum += Math.log((1 - SHORT_OF_IT) * Math.exp(row[there] as number) + SHORT_OF_IT * Math.exp(bare));
    }
    return sum;
  }
}
