import type { AdapterDesign, AdapterEnd } from '../design.js';
import { layRibbon, NoRibbon, type RibbonJob, type RibbonLay } from '../ribbon.js';
import { pressedRibbon, ribbonJobOf, type WorkedUpAdapter } from '../work-up.js';
import type { BuildStep } from './step.js';

/**
 * A ribbon between two connectors that take it flat: press the first on, lay the conductors in the
 * far one's order, press that on. Empty where the lead is no such ribbon, or cannot be one.
 */
export function ribbonSteps(design: AdapterDesign, worked: WorkedUpAdapter): BuildStep[] {
  const [near, far] = design.ends;
  const pressed = pressedRibbon(design);
  const job = ribbonJobOf(design, worked.rows);
  if (!near || !far || !pressed || !job) return [];
  const lay = laidOrNull(job);
  if (!lay) return [];
  const blank = { end: null, contact: null, wire: null, colour: null, farColour: null };
  const press = (end: AdapterEnd, words: string): BuildStep => ({
    ...blank,
    id: `press ${end.id}`,
    kind: 'joint',
    end: end.id,
    words: `Press the connector of ${end.name} on: ${words}.`,
  });
  const order = lay.turned ? job.far.toReversed() : job.far;
  const crossed: BuildStep[] =
    lay.crossings === 0
      ? []
      : [
          {
            ...blank,
            id: `slit ${far.id}`,
            kind: 'thread',
            end: far.id,
            words: `Slit the webs of the ribbon back 60 mm before ${far.name}, between the wires, never into one.`,
          },
        ];
  const looked: BuildStep[] =
    lay.crossings === 0
      ? []
      : [
          {
            ...blank,
            id: `look ${far.id}`,
            kind: 'keep',
            end: far.id,
            words: `Hold the wires flat in a clip, read them once more against the list, then cut them square in one stroke.`,
          },
        ];
  const peel = lay.peeled.map((conductor): BuildStep => {
    const wire = pressed.wires[conductor];
    return {
      ...blank,
      id: `peel ${conductor}`,
      kind: 'keep',
      end: far.id,
      words: `Peel conductor ${conductor + 1} off before ${far.name}: it is joined to nothing there.`,
      wire: wire?.id ?? null,
      colour: wire?.colour ?? null,
    };
  });
  const laid = lay.order.flatMap((conductor, place): BuildStep[] => {
    const contact = order[place];
    const wire = conductor === null ? undefined : pressed.wires[conductor];
    if (!wire || contact === undefined) return [];
    return [
      {
        ...blank,
        id: `lay ${far.id} ${contact}`,
        kind: 'joint',
        end: far.id,
        contact,
        words: `Place ${place + 1}, contact ${contact}: lay conductor ${(conductor ?? 0) + 1}`,
        wire: wire.id,
        colour: wire.colour,
      },
    ];
  });
  const held = [near, far].map((end): BuildStep => ({
    ...blank,
    id: `relief ${end.id}`,
    kind: 'keep',
    end: end.id,
    words: `Meter neighbours of ${end.name} for shorts first, then fold the ribbon over and clip its strain relief on.`,
  }));
  return [
    press(near, 'marked edge at contact 1, shell supported, level'),
    ...peel,
    ...crossed,
    ...laid,
    ...looked,
    press(
      far,
      `${lay.turned ? 'turned over, its last contact at the marked edge' : 'marked edge at contact 1'}, shell supported, level`,
    ),
    ...held,
  ];
}

function laidOrNull(job: RibbonJob): RibbonLay | null {
  try {
    return layRibbon(job);
  } catch (error) {
    if (error instanceof NoRibbon) return null;
    throw error;
  }
}
