import {
  LIGHT_M_PER_S,
  losslessLine,
  skinCoefficient,
  type LineFigures,
} from '../../core/src/reflectometry/line.js';
import { NO_SCOPE, type Element, type Load, type Network } from '../../core/src/reflectometry/network.js';
import { simulate } from '../../core/src/reflectometry/simulate.js';

/** One network in both languages, with our answer. */
export interface SpiceCase {
  name: string;
  netlist: string;
  volts: number[];
  intervalS: number;
  launchV: number;
  ms: number;
}

const INTERVAL_S = 0.5e-9;
const SAMPLES = 1600;
const LAUNCH_S = 50e-9;
const SOURCE: Network['source'] = {
  shape: 'pulse',
  volts: 2,
  widthS: 30e-9,
  riseS: 4e-9,
  edge: 'ramp',
  impedanceOhm: 75,
};

/** A line with resistance alone is one that a circuit simulator knows: R, L and C per metre. */
const resistive = (loopOhmPerM: number): LineFigures => ({ ...losslessLine(75, 0.8), loopOhmPerM });
const run = (lengthM: number, line = losslessLine(75, 0.8)): Element => ({ kind: 'line', lengthM, line });

const NETWORKS: readonly {
  name: string;
  chain: Element[];
  load: Load;
  source?: Partial<Network['source']>;
}[] = [
  { name: 'open line', chain: [run(40)], load: 'open' },
  {
    name: 'two impedances, mismatched source',
    chain: [run(18), run(15, losslessLine(50, 0.66))],
    load: 'short',
    source: { impedanceOhm: 50 },
  },
  {
    name: 'shunt capacitor, resistor at the end',
    chain: [run(20), { kind: 'shunt', farad: 30e-12 }, run(15)],
    load: { ohm: 150 },
  },
  {
    name: 'series inductor and resistor',
    chain: [run(20), { kind: 'series', henry: 100e-9, ohm: 20 }, run(15)],
    load: 'open',
  },
  {
    name: 'stub',
    chain: [run(20), { kind: 'stub', chain: [run(7)], load: 'open' }, run(15)],
    load: { ohm: 75 },
  },
  { name: 'line with resistance', chain: [run(45, resistive(0.6))], load: 'open' },
  {
    name: 'line with much resistance, step',
    chain: [run(45, resistive(2))],
    load: 'short',
    source: { shape: 'step' },
  },
  {
    name: 'line with skin effect (ladder of resistors and inductors)',
    chain: [run(40, { ...losslessLine(75, 0.8), skinDb: 2.2 })],
    load: 'open',
  },
  {
    name: 'line with skin effect, joint and shunt',
    chain: [
      run(20, { ...losslessLine(75, 0.8), skinDb: 2.2 }),
      { kind: 'shunt', ohm: 220 },
      run(16, { ...losslessLine(75, 0.8), skinDb: 2.2 }),
    ],
    load: 'short',
    source: { impedanceOhm: 50 },
  },
];

/** Poles of the skin-effect ladder: from far below to far above what a launch holds, rad/s. */
const LADDER = { from: 1e5, to: 3e10, step: Math.log(5) };
/** Pieces that a line with skin effect is cut into. */
const PIECES = 24;

/**
 * Resistors with inductors beside them, in series, whose impedance is k sqrt(s):
 * sqrt(s) = (1/pi) times the integral of s / (s + x) dx / sqrt(x), summed over ln x.
 */
function ladder(k: number): { ohm: number; henry: number }[] {
  const rungs: { ohm: number; henry: number }[] = [];
  for (let u = Math.log(LADDER.from); u < Math.log(LADDER.to); u += LADDER.step) {
    const pole = Math.exp(u);
    const ohm = (k * LADDER.step * Math.sqrt(pole)) / Math.PI;
    rungs.push({ ohm, henry: ohm / pole });
  }
  return rungs;
}

/** A line with skin effect: short lossless lines with the ladder's share in the middle of each. */
function skinLine(line: LineFigures, lengthM: number, from: string, to: string, lines: string[]): void {
  const pieceM = lengthM / PIECES;
  const delay = pieceM / 2 / (line.velocityFactor * LIGHT_M_PER_S);
  const rungs = ladder(skinCoefficient(line) * pieceM);
  let at = from;
  for (let n = 0; n < PIECES; n++) {
    const [a, b] = [`${from}s${n}a`, `${from}s${n}b`];
    lines.push(`T${a} ${at} 0 ${a} 0 Z0=${line.impedanceOhm} TD=${delay}`);
    let node = a;
    rungs.forEach(({ ohm, henry }, r) => {
      const next = r === rungs.length - 1 ? b : `${a}r${r}`;
      lines.push(`R${a}${r} ${node} ${next} ${ohm}`, `L${a}${r} ${node} ${next} ${henry}`);
      node = next;
    });
    const end = n === PIECES - 1 ? to : `${from}s${n}c`;
    lines.push(`T${b} ${b} 0 ${end} 0 Z0=${line.impedanceOhm} TD=${delay}`);
    at = end;
  }
}

/** A chain as a netlist, from a node on. */
function written(chain: readonly Element[], load: Load, node: string, lines: string[]): void {
  let at = node;
  chain.forEach((element, n) => {
    const next = `${node}_${n}`;
    const id = `${node}${n}`;
    if (element.kind === 'line') {
      const { impedanceOhm, velocityFactor, loopOhmPerM } = element.line;
      const velocity = velocityFactor * LIGHT_M_PER_S;
      if (element.line.skinDb > 0) skinLine(element.line, element.lengthM, at, next, lines);
      else if (loopOhmPerM === 0)
        lines.push(`T${id} ${at} 0 ${next} 0 Z0=${impedanceOhm} TD=${element.lengthM / velocity}`);
      else {
        const [l, c] = [impedanceOhm / velocity, 1 / (impedanceOhm * velocity)];
        lines.push(
          `O${id} ${at} 0 ${next} 0 M${id}`,
          `.model M${id} LTRA R=${loopOhmPerM} L=${l} G=0 C=${c} LEN=${element.lengthM} REL=1 ABS=1`,
        );
      }
      at = next;
    } else if (element.kind === 'series') {
      lines.push(
        `R${id} ${at} ${next}m ${element.ohm ?? 1e-6}`,
        `L${id} ${next}m ${next} ${element.henry ?? 1e-15}`,
      );
      at = next;
    } else if (element.kind === 'shunt') {
      if (element.ohm) lines.push(`R${id} ${at} 0 ${element.ohm}`);
      if (element.farad) lines.push(`C${id} ${at} 0 ${element.farad}`);
    } else written([...element.chain], element.load, at, lines);
  });
  const ohm = load === 'open' ? 1e9 : load === 'short' ? 1e-6 : (load.ohm ?? 1e9);
  lines.push(`Rload${node} ${at} 0 ${ohm}`);
}

/** Every network with its netlist and what our forward model makes of it. */
export function spiceCases(): SpiceCase[] {
  return NETWORKS.map(({ name, chain, load, source: other }) => {
    const source = { ...SOURCE, ...other };
    const edge = source.riseS / 0.8;
    const width = source.shape === 'pulse' ? source.widthS - edge : 1;
    const lines = [
      name,
      `V1 gen 0 PULSE(0 ${source.volts} ${LAUNCH_S - edge / 2} ${edge} ${edge} ${width} 10)`,
      `Rs gen tee ${source.impedanceOhm}`,
    ];
    written(chain, load, 'tee', lines);
    const end = INTERVAL_S * SAMPLES;
    lines.push(
      `.tran ${INTERVAL_S / 10} ${end} 0 ${INTERVAL_S / 10}`,
      '.control',
      'run',
      'wrdata %TABLE% v(tee)',
      'quit',
      '.endc',
      '.end',
    );
    const network = { source, scope: NO_SCOPE, chain, load };
    const sampling = { intervalS: INTERVAL_S, samples: SAMPLES, launchS: LAUNCH_S };
    const times = Array.from({ length: 15 }, () => {
      const began = performance.now();
      simulate(network, sampling);
      return performance.now() - began;
    }).sort((one, other) => one - other);
    const ms = times[7]!;
    const { volts } = simulate(network, sampling);
    return {
      name,
      netlist: `${lines.join('\n')}\n`,
      volts: Array.from(volts),
      intervalS: INTERVAL_S,
      launchV: 1,
      ms,
    };
  });
}
