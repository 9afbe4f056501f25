import type { ToolKind, ToolNeed } from '../connectors/connector-types.js';

/** A tool of the crew, with the dies, adapters or blades it has. */
export interface ToolType {
  id: string;
  name: string;
  kind: ToolKind;
  /** Empty where the tool has but one size. */
  sizes: readonly string[];
  source: 'typical' | 'sheet';
}

/** What may stand in for a missing tool, and what must not. */
export interface Stopgap {
  /** Kept on the record until the end is redone; null where nothing will do. */
  words: string | null;
  ruins: string;
}

export const STOPGAPS: Readonly<Record<ToolKind, Stopgap>> = {
  'jacket stripper': {
    words: 'A sharp blade, scored once around without cutting through, then bent until it parts.',
    ruins: 'A blade run along the jacket: it nicks conductors that break later.',
  },
  'coax stripper': {
    words: 'A blade and a rule, one layer at a time, each cut turned round without pressing.',
    ruins: 'One deep cut for all layers: it nicks the centre and cuts the braid short.',
  },
  'wire stripper': {
    words: 'Side cutters held loosely, with the wire drawn through; look for nicks after each.',
    ruins: 'Teeth, or a flame: the first nicks, the second leaves soot in the joint.',
  },
  'side cutters': {
    words: 'Sharp scissors for the trade.',
    ruins: 'Blunt pliers: crushed ends do not enter a plug.',
  },
  'flush cutters': {
    words: 'Side cutters, then a sharp blade drawn flush.',
    ruins: 'Ends left standing: they touch inside the body.',
  },
  'modular crimp tool': {
    words: null,
    ruins: 'Pliers or a screwdriver: contacts at eight heights, and a bar that does not hold.',
  },
  'insertion tool': {
    words: 'The plastic insertion tool that comes in the box, for one repair. Redo it with the right blade.',
    ruins: 'A screwdriver: it opens the slot for good, and no wire holds in it again.',
  },
  'flat-jawed pliers': {
    words: 'A small clamp with flat jaws, closed evenly.',
    ruins: 'Toothed pliers: they close one side first and bend the contacts.',
  },
  'hex crimp tool': {
    words: null,
    ruins: 'Pliers: a flattened ferrule holds neither the pull nor the screen.',
  },
  'pin crimp tool': {
    words: 'Solder the pin: little solder, through the hole, none on the outside.',
    ruins: 'Side cutters squeezed on the pin: it sits askew and spreads the socket.',
  },
  'compression tool': {
    words: null,
    ruins: 'A hex crimp tool or pliers: the sleeve must go in straight, not be squeezed.',
  },
  'splice crimp tool': {
    words: 'Solder and heat-shrink instead.',
    ruins: 'Pliers: a barrel squeezed flat lets go when it is warm.',
  },
  'ribbon press': {
    words: 'A vice with flat jaws and a strip of wood, closed slowly and level.',
    ruins: 'A hammer, or pliers from one end: the contacts bend between the wires.',
  },
  'soldering iron': {
    words: 'A gas iron with a clean tip.',
    ruins: 'A flame or a heat gun: the insulation goes before the solder flows.',
  },
  'heat gun': {
    words: 'A gas iron’s hot-air tip, kept moving.',
    ruins: 'A lighter: it burns one side and leaves the other loose.',
  },
  knife: {
    words: 'A fresh snap-off blade.',
    ruins: 'Side cutters across the front: ends stand out and touch.',
  },
  screwdriver: { words: 'Any driver that fills the slot.', ruins: 'A knife: it slips into the hand.' },
  spanner: {
    words: 'A second spanner of the next size with a shim.',
    ruins: 'Toothed pliers on the nut’s flats.',
  },
  'ferrule crimp tool': {
    words: 'A screw terminal with a plate that presses flat, strands twisted, no solder.',
    ruins: 'Side cutters squeezed on the sleeve: it is cut through and the strands with it.',
  },
  'two-row press': {
    words: 'The hand tool for one contact after another, for a few pairs.',
    ruins: 'A screwdriver: it opens the slots for good.',
  },
};

const MM_PER_INCH = 25.4;

const PRESSED_ONCE: readonly ToolKind[] = ['hex crimp tool', 'pin crimp tool', 'compression tool'];

/**
 * Whether the tool has to be looked at before it is used: where a wrong die or adapter spoils the
 * connector, and where the right one is not in the kit.
 */
export const lookAtTool = (need: ToolNeed, kit: readonly ToolType[]): boolean =>
  (need.size !== null && PRESSED_ONCE.includes(need.kind)) || checkTools([need], kit)[0]?.verdict !== 'have';

/**
 * The tools of a card that have to be looked at, each once: asked for before its first step, so that a hand in the
 * middle of the work is never stopped by a question.
 */
export function toolsToLookAt(
  steps: readonly { tool: ToolNeed | null }[],
  kit: readonly ToolType[],
): ToolNeed[] {
  const needs = steps.flatMap(({ tool }) => (tool && lookAtTool(tool, kit) ? [tool] : []));
  return needs.filter((need, i) => needs.findIndex((other) => sameNeed(need, other)) === i);
}

export const sameNeed = (one: ToolNeed, other: ToolNeed): boolean =>
  one.kind === other.kind && one.size === other.size;

/** How a need is met by the crew's kit. */
export interface ToolCheck {
  need: ToolNeed;
  verdict: 'have' | 'wrong size' | 'missing';
  words: string;
  stopgap: Stopgap;
}

const named = (need: ToolNeed): string => (need.size === null ? need.kind : `${need.kind}, ${need.size}`);

/** Checks what a connector asks for against the crew's tools. */
export function checkTools(needs: readonly ToolNeed[], kit: readonly ToolType[]): ToolCheck[] {
  return needs.map((need): ToolCheck => {
    const stopgap = STOPGAPS[need.kind];
    const alike = kit.filter((tool) => tool.kind === need.kind);
    const right = alike.find((tool) => need.size === null || tool.sizes.includes(need.size));
    if (right) return { need, verdict: 'have', words: `${named(need)}: ${right.name}`, stopgap };
    if (alike.length > 0) {
      const sizes = [...new Set(alike.flatMap((tool) => tool.sizes))].join(', ');
      return {
        need,
        verdict: 'wrong size',
        words: `${named(need)}: the kit has only ${sizes || 'another kind'}`,
        stopgap,
      };
    }
    return { need, verdict: 'missing', words: `${named(need)}: not in the kit`, stopgap };
  });
}

/** What a die, blade or adapter in the hand does to a part made for another. */
export interface SizeVerdict {
  right: boolean;
  /** How much wider than wanted, in millimetres, where sizes are measures. */
  marginMm: number | null;
  words: string;
}

/** Compares the size in the hand with the one a connector asks for. */
export function judgeSize(need: ToolNeed, inHand: string): SizeVerdict {
  if (need.size === null || need.size === inHand) {
    return { right: true, marginMm: need.size === null ? null : 0, words: `${inHand} is right.` };
  }
  const [wanted, got] = [Number(need.size), Number(inHand)];
  if (Number.isNaN(wanted) || Number.isNaN(got)) {
    return {
      right: false,
      marginMm: null,
      words: `This needs ${need.size}, not ${inHand}. Change it before you press.`,
    };
  }
  const marginMm = (got - wanted) * MM_PER_INCH;
  const does = marginMm > 0 ? 'it leaves the ferrule loose' : 'it splits the ferrule or cuts the centre';
  return {
    right: false,
    marginMm,
    words: `Wrong die: ${inHand} is ${Math.abs(marginMm).toFixed(1)} mm too ${marginMm > 0 ? 'wide' : 'narrow'} for ${need.size}: ${does}. Change the die before you press.`,
  };
}

const tool = (id: string, name: string, kind: ToolKind, ...sizes: string[]): ToolType => ({
  id,
  name,
  kind,
  sizes,
  source: 'typical',
});

/** The tools of a well-stocked crew, by generic names. */
export const TOOL_TYPES: readonly ToolType[] = [
  tool('jacket-stripper', 'ring stripper', 'jacket stripper'),
  tool('coax-stripper', 'two-blade coax stripper', 'coax stripper', 'RG-58', 'RG-59/6'),
  tool('coax-stripper-large', 'large coax stripper', 'coax stripper', 'RG-213'),
  tool('coax-stripper-set', 'coax stripper with blades to set', 'coax stripper', 'mini-8', 'RG-174'),
  tool('wire-stripper', 'wire stripper', 'wire stripper'),
  tool('side-cutters', 'side cutters', 'side cutters'),
  tool('flush-cutters', 'flush cutters', 'flush cutters'),
  tool('modular-crimp', 'modular crimp tool', 'modular crimp tool', '6', '8'),
  tool('modular-crimp-cutting', 'crimp tool for pass-through plugs', 'modular crimp tool', '8, cutting'),
  tool('insertion-110', 'insertion tool with blades', 'insertion tool', '110', '66'),
  tool('insertion-british', 'insertion tool, telephone', 'insertion tool', 'British'),
  tool('flat-pliers', 'flat-jawed pliers', 'flat-jawed pliers'),
  tool(
    'hex-crimp',
    'hex crimp tool with dies',
    'hex crimp tool',
    '.128',
    '.213',
    '.255',
    '.324',
    '.360',
    '.429',
  ),
  tool('pin-crimp', 'pin dies for the hex tool', 'pin crimp tool', '.068', '.100'),
  tool('compression', 'compression tool with adapters', 'compression tool', 'F', 'BNC', 'phono'),
  tool('splice-crimp', 'crimp pliers for joints', 'splice crimp tool', '16-22 AWG'),
  tool('ribbon-press', 'ribbon press', 'ribbon press'),
  tool('soldering-iron', 'soldering iron, 60 W', 'soldering iron'),
  tool('heat-gun', 'heat gun with reflector', 'heat gun'),
  tool('knife', 'cable knife', 'knife'),
  tool('screwdriver', 'screwdriver set', 'screwdriver'),
  tool('spanner', 'spanner set', 'spanner'),
  tool('insertion-strip', 'insertion tool for disconnect strips', 'insertion tool', 'disconnect strip'),
  tool('modular-crimp-british', 'crimp tool for British telephone plugs', 'modular crimp tool', 'British'),
  tool('ferrule-crimp', 'crimp pliers for bootlace ferrules', 'ferrule crimp tool'),
  tool('two-row-press', 'press for 50-contact connectors', 'two-row press'),
];
