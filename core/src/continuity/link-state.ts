import type { Frame } from './frame.js';
import type { JointPlace, LinkEnd, TrueLink } from './true-link.js';

/** How a joint, or a conductor along the cable, conducts. */
export const FINE = 0;
export const OPEN = 1;
export const LOOSE = 2;
/** Conducts badly; three grades by resistance, see `POOR_GRADES`. */
export const POOR = [3, 4, 5] as const;

/** Grades of poor joints by their resistance in ohm: from, up to. */
export const POOR_GRADES: readonly { fromOhm: number; toOhm: number }[] = [
  { fromOhm: 3, toOhm: 30 },
  { fromOhm: 30, toOhm: 300 },
  { fromOhm: 300, toOhm: 3000 },
];

/** The condition that stands for a resistance. */
export function poorCondition(ohm: number): number {
  if (ohm < 1) return FINE;
  return ohm < 30 ? POOR[0] : ohm < 300 ? POOR[1] : POOR[2];
}

/** A contact bridge at an end (contact numbers), or a join in the cable (conductor numbers). */
export interface Short {
  where: LinkEnd | 'cable';
  a: number;
  b: number;
  /** From the near end; NaN where nobody knows. Of no meaning at an end. */
  atM: number;
  /** Of the contact between the two, where it is known. */
  ohm?: number | undefined;
}

/**
 * How a link is, in numbers of its frame. `cells` holds, part after part: the conductor on each near
 * and far contact (-1 for none), how each contact's joint conducts, how each conductor does, which
 * conductor each goes on as behind a splice, bits for ends with equipment, and whether the far
 * end is another's.
 */
export class LinkState {
  readonly cells: Int16Array;
  readonly shorts: Short[] = [];
  readonly wetAtM: number[] = [];
  /** Conductor -> where it is not fine along the cable; NaN where that is not known. */
  readonly coreAtM: Float64Array;
  /** Joints and conductors whose poor resistance is known in ohms, by their cells. */
  readonly poorOhm = new Map<number, number>();
  /** Conductor -> a second break, as seen from the far end. */
  readonly coreToM: Float64Array;
  /** The length of the cable; the plan's, where nothing says otherwise. */
  lengthM: number;
  /** Joints that open and close, in all parts. */
  loose = 0;
  /** Joints and conductors that conduct badly, in all parts. */
  poor = 0;
  /** Share of readings at rest that find a loose joint open. */
  openShare = LOOSE_OPEN_SHARE;

  constructor(readonly frame: Frame) {
    this.cells = new Int16Array(frame.at.size);
    this.lengthM = frame.lengthM;
    this.coreAtM = new Float64Array(frame.conductors.length).fill(NaN);
    this.coreToM = new Float64Array(frame.conductors.length).fill(NaN);
  }

  /** Becomes like another state of the same frame. */
  become(other: LinkState): this {
    this.cells.set(other.cells);
    this.shorts.length = 0;
    for (const short of other.shorts) this.shorts.push(short);
    this.wetAtM.length = 0;
    for (const atM of other.wetAtM) this.wetAtM.push(atM);
    this.coreAtM.set(other.coreAtM);
    this.coreToM.set(other.coreToM);
    this.loose = other.loose;
    this.poor = other.poor;
    this.openShare = other.openShare;
    this.lengthM = other.lengthM;
    if (this.poorOhm.size > 0) this.poorOhm.clear();
    for (const [cell, ohm] of other.poorOhm) this.poorOhm.set(cell, ohm);
    return this;
  }

  setSeat(end: LinkEnd, contact: number, condition: number): void {
    this.setCondition((end === 'near' ? this.frame.at.nearSeat : this.frame.at.farSeat) + contact, condition);
  }

  setCore(conductor: number, condition: number, atM: number): void {
    const { at } = this.frame;
    const known = this.cells[at.core + conductor] === OPEN && condition === OPEN;
    this.setCondition(at.core + conductor, condition);
    if (known) {
      const first = this.coreAtM[conductor] as number;
      const last = this.coreToM[conductor] as number;
      this.coreAtM[conductor] = Math.min(first, atM);
      this.coreToM[conductor] = Math.max(last, atM);
    } else {
      this.coreAtM[conductor] = atM;
      this.coreToM[conductor] = atM;
    }
  }

  /** An open joint stays open whatever else is wrong with it. */
  private setCondition(cell: number, condition: number): void {
    const before = this.cells[cell] as number;
    if (before === OPEN) return;
    if (before === LOOSE) this.loose--;
    if (condition === LOOSE) this.loose++;
    if (before >= POOR[0]) this.poor--;
    if (condition >= POOR[0]) this.poor++;
    this.cells[cell] = condition;
  }

  /** A text that is equal for two states exactly when they are the same link. */
  key(): string {
    const shorts = this.shorts.map((s) => `${s.where}${Math.min(s.a, s.b)}+${Math.max(s.a, s.b)}@${s.atM}`);
    const places = [...this.coreAtM].map((atM) => (Number.isNaN(atM) ? '' : atM.toFixed(1)));
    const lengthM = this.lengthM === this.frame.lengthM ? '' : this.lengthM.toFixed(1);
    return [this.cells.join(), shorts.sort().join(), places.join(), this.wetAtM.join(), lengthM].join('|');
  }
}

/** Loose joints found open at rest: typical. */
export const LOOSE_OPEN_SHARE = 0.3;

/** The link of a frame as it is meant to be, everything on it sound. */
export function soundState(frame: Frame): LinkState {
  const state = new LinkState(frame);
  const { at, intended, conductors } = frame;
  state.cells.set(intended.near, at.near);
  state.cells.set(intended.far, at.far);
  conductors.forEach((_, w) => (state.cells[at.splice + w] = w));
  return state;
}

/** A link as a state of its frame. */
export function toState(frame: Frame, link: TrueLink): LinkState {
  const state = soundState(frame);
  const { cells } = state;
  const { at } = frame;
  state.lengthM = link.lengthM;
  for (const end of ['near', 'far'] as const) {
    frame.contacts[end].forEach((contact, i) => {
      const conductor = link[end][contact] ?? null;
      cells[at[end] + i] = conductor === null ? -1 : frame.conductorIndex(conductor);
    });
  }
  const place = (where: JointPlace, condition: number): void => {
    if ('end' in where) state.setSeat(where.end, frame.contactIndex(where.end, where.contact), condition);
    else state.setCore(frame.conductorIndex(where.conductor), condition, where.atM);
  };
  for (const { place: where, ohm } of link.poor) {
    place(where, poorCondition(ohm));
    const cell =
      'end' in where
        ? (where.end === 'near' ? at.nearSeat : at.farSeat) + frame.contactIndex(where.end, where.contact)
        : at.core + frame.conductorIndex(where.conductor);
    state.poorOhm.set(cell, ohm);
  }
  for (const { place: where, openShare } of link.loose) {
    place(where, LOOSE);
    state.openShare = openShare;
  }
  for (const { end, contact } of link.unseated) place({ end, contact }, OPEN);
  for (const { conductor, atM } of link.breaks) place({ conductor, atM }, OPEN);
  for (const { conductors, atM, ohm } of link.joins) {
    const [a, b] = conductors.map((c) => frame.conductorIndex(c)) as [number, number];
    state.shorts.push({ where: 'cable', a, b, atM, ohm });
  }
  for (const { end, contacts, ohm } of link.bridges) {
    const [a, b] = contacts.map((c) => frame.contactIndex(end, c)) as [number, number];
    state.shorts.push({ where: end, a, b, atM: NaN, ohm });
  }
  for (const { conductors } of link.splices) {
    const [a, b] = conductors.map((c) => frame.conductorIndex(c)) as [number, number];
    exchangeBehindSplice(state, a, b);
  }
  for (const { atM } of link.disturbances) state.wetAtM.push(atM);
  for (const end of link.equipment)
    cells[at.equipment] = (cells[at.equipment] as number) | (end === 'near' ? 1 : 2);
  cells[at.absent] = link.farPresent ? 0 : 1;
  return state;
}

/** Behind a splice two conductors go on as each other. */
export function exchangeBehindSplice(state: LinkState, a: number, b: number): void {
  const { splice } = state.frame.at;
  const { cells } = state;
  const kept = cells[splice + a] as number;
  cells[splice + a] = cells[splice + b] as number;
  cells[splice + b] = kept;
}

/** A state as the link it tells of; places that are not known lie at half the length. */
export function fromState(intended: TrueLink, state: LinkState): TrueLink {
  const { frame, cells } = state;
  const { at, contacts, conductors } = frame;
  const somewhere = (atM: number | undefined): number =>
    atM === undefined || Number.isNaN(atM) ? frame.lengthM / 2 : atM;
  const wiring = (end: LinkEnd): TrueLink['near'] =>
    Object.fromEntries(contacts[end].map((c, i) => [c, conductors[cells[at[end] + i] as number] ?? null]));
  const joints: { place: JointPlace; condition: number }[] = [];
  for (const end of ['near', 'far'] as const) {
    contacts[end].forEach((contact, i) =>
      joints.push({
        place: { end, contact },
        condition: cells[(end === 'near' ? at.nearSeat : at.farSeat) + i] as number,
      }),
    );
  }
  conductors.forEach((conductor, w) =>
    joints.push({
      place: { conductor, atM: somewhere(state.coreAtM[w]) },
      condition: cells[at.core + w] as number,
    }),
  );
  const name = (end: LinkEnd, i: number): string => contacts[end][i] as string;
  const wire = (w: number): string => conductors[w] as string;
  const wrong = (condition: number): JointPlace[] =>
    joints.filter((j) => j.condition === condition).map((j) => j.place);
  return {
    ...intended,
    lengthM: state.lengthM,
    near: wiring('near'),
    far: wiring('far'),
    unseated: wrong(OPEN).filter((p) => 'end' in p),
    breaks: wrong(OPEN).filter((p) => 'conductor' in p),
    loose: wrong(LOOSE).map((place) => ({ place, openShare: state.openShare })),
    poor: POOR.flatMap((condition, grade) => {
      const { fromOhm, toOhm } = POOR_GRADES[grade] as (typeof POOR_GRADES)[number];
      return wrong(condition).map((place) => ({ place, ohm: Math.sqrt(fromOhm * toOhm) }));
    }),
    joins: state.shorts
      .filter((s) => s.where === 'cable')
      .map((s) => ({ conductors: [wire(s.a), wire(s.b)], atM: somewhere(s.atM) })),
    bridges: state.shorts.flatMap(({ where, a, b }) =>
      where === 'cable' ? [] : [{ end: where, contacts: [name(where, a), name(where, b)] as const }],
    ),
    splices: conductors.flatMap((_, w) => {
      const v = cells[at.splice + w] as number;
      return v > w && cells[at.splice + v] === w
        ? [{ conductors: [wire(w), wire(v)] as const, atM: frame.lengthM / 2 }]
        : [];
    }),
    disturbances: state.wetAtM.map((atM) => ({ atM: somewhere(atM), lengthM: 1, impedance: 'low' as const })),
    equipment: (['near', 'far'] as const).filter(
      (_, i) => ((cells[at.equipment] as number) & (1 << i)) !== 0,
    ),
    farPresent: cells[at.absent] === 0,
  };
}
