import type { ContactId } from '../cabling/schemes.js';
import { layoutFor } from '../connectors/own-layout.js';
import { jumperSteps, reliefSteps, stageSteps, threadsOf } from './build/by-parts.js';
import { ribbonSteps } from './build/ribbon-steps.js';
import { keepsItsScreen, screenWords, spliceSteps } from './build/splice-steps.js';
import type { BuildStep } from './build/step.js';
import { colourAt } from './conductor-choice.js';
import { netsOf, placeWords, type AdapterDesign, type AdapterEnd } from './design.js';
import { rowsOfFace } from './from-face.js';
import { placedStage } from './level-stage.js';
import { partWords } from './prove-build.js';
import { colourOn, type WorkedUpAdapter } from './work-up.js';

export type { BuildStep } from './build/step.js';

/**
 * An adapter's building in order: closed rings on the cable first, then connector by connector each
 * joint in the order in which the wiring side is read, bridges and parts with them, and last the
 * conductors that are left over.
 */
export function buildPlan(design: AdapterDesign, worked: WorkedUpAdapter): BuildStep[] {
  const wires = new Map(design.wires.map((wire) => [wire.id, wire]));
  const blank = { end: null, contact: null, wire: null, colour: null, farColour: null };
  const threads = design.ends.flatMap((end) =>
    threadsOf(end).map((ring, n): BuildStep => ({
      ...blank,
      id: `thread ${end.id} ${n}`,
      kind: 'thread',
      end: end.id,
      words: `Thread the ${ring} of ${end.name} onto the cable, its open side towards ${end.id}.`,
    })),
  );
  const ribbon = ribbonSteps(design, worked);
  const splices = spliceSteps(design, worked);
  const whole = ribbon.length + splices.length > 0;
  const pressed = whole ? design.ends.slice(0, 2).map(({ id }) => id) : [];
  const joints = design.ends
    .filter(({ id }) => !pressed.includes(id))
    .flatMap((end) =>
      inReadingOrder(end).flatMap((contact): BuildStep[] => {
        const row = worked.rows.find(({ net }) =>
          net.pins.some((pin) => pin.end === end.id && pin.contact === contact),
        );
        if (!row) return [];
        const own = row.net.pins.filter((pin) => pin.end === end.id).map((pin) => pin.contact);
        // Where the conductor goes: to the net's contact elsewhere, or to a part that lies there.
        const elsewhere =
          row.net.pins.find((pin) => pin.end !== end.id) ??
          (row.wire === null
            ? undefined
            : worked.couplings.find(({ from }) => own.includes(from.contact) && from.end === end.id)?.to);
        const first = inReadingOrder(end).find((each) => own.includes(each));
        const pin = end.pins.find((each) => each.contact === contact);
        const wire = row.wire === null ? undefined : wires.get(row.wire);
        const at = { end: end.id, contact };
        if (contact !== first || !elsewhere) {
          // The first contact of a bridge at one end alone has nothing to be bridged to yet.
          if (contact === first) return [];
          return [
            {
              ...blank,
              ...at,
              id: `bridge ${placeWords(at)}`,
              kind: 'bridge',
              words: `Bridge ${contact} ${pin?.signal ?? ''} to ${first}.`,
            },
          ];
        }
        return [
          {
            ...blank,
            ...at,
            id: `joint ${placeWords(at)}`,
            kind: 'joint',
            words: `Contact ${contact}, ${pin?.signal ?? ''}`,
            wire: row.wire,
            colour: pin ? colourOn(design, worked.rows, { ...at, pin }) : null,
            farColour: elsewhere.pin.colour ?? (wire ? colourAt(wire, elsewhere.end) : null),
          },
        ];
      }),
    );
  const { nets } = netsOf(design);
  const loose = jumperSteps(worked.jumpers);
  const parts = worked.couplings.flatMap(({ from, to, parts: between }, n): BuildStep[] => {
    const row = worked.rows.find(({ net }) => net.pins.some(({ pin }) => pin === from.pin));
    const wire = row?.wire ? wires.get(row.wire) : undefined;
    const stage = placedStage(design, nets, { from, to, parts: between });
    if (stage && stage.parts.length > 0) return stageSteps(design, stage, n);
    return [
      {
        ...blank,
        id: `part ${n} ${placeWords(from)} ${placeWords(to)} ${between.map(({ kind }) => kind).join()}`,
        kind: 'part',
        // Parts lie at the end that a join goes to.
        end: to.end,
        contact: to.contact,
        words: `Fit ${between.map(partWords).join(', then ')} between ${placeWords(from)} ${from.pin.signal} and ${placeWords(to)} ${to.pin.signal}, sleeved.`,
        wire: wire?.id ?? null,
        colour: wire ? colourAt(wire, to.end) : null,
      },
    ];
  });
  const spares = (whole ? [] : worked.spares).map((id): BuildStep => {
    const wire = wires.get(id);
    return {
      ...blank,
      id: `keep ${id}`,
      kind: 'keep',
      words: keepsItsScreen(design, wire)
        ? screenWords(design, id)
        : design.spares === 'cut'
          ? `Cut conductor ${id} off at both ends, flush with the jacket.`
          : `Insulate conductor ${id} at both ends and fold it back.`,
      wire: id,
      colour: wire?.colour ?? null,
    };
  });
  return [
    ...(splices.length > 0 ? [] : threads),
    ...ribbon,
    ...splices,
    ...(loose.length > 0 ? loose : joints),
    ...parts,
    ...spares,
    ...(loose.length > 0 ? [] : reliefSteps(design, whole)),
  ];
}

/** Contacts as the person wiring reads them: rows of the wiring side, or the pinout's order where nothing is drawn. */
function inReadingOrder({ layout, pins }: AdapterEnd): ContactId[] {
  const drawn = layoutFor(layout ?? null);
  const given = pins.map(({ contact }) => contact);
  if (!drawn) return given;
  const read = rowsOfFace(drawn, { face: 'rear', latch: 'down' }).flat();
  return [...read.filter((contact) => given.includes(contact)), ...given.filter((c) => !read.includes(c))];
}
