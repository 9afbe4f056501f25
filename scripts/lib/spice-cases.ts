import { LIGHT_M_PER_S, losslessLine, type LineFigures } from '../../core/src/reflectometry/line.js';
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
];

/** A chain as a netlist, from a node on. */
function written(chain: readonly Element[], load: Load, node: string, lines: string[]): void {
  let at = node;
  chain.forEach((element, n) => {
    const next = `${node}_${n}`;
    const id = `${node}${n}`;
    if (element.kind === 'line') {
      const { impedanceOhm, velocityFactor, loopOhmPerM } = element.line;
      const velocity = velocityFactor * LIGHT_M_PER_S;
      if (loopOhmPerM === 0)
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
