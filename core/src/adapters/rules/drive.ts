import type { AdapterNet, Coupling } from '../design.js';
import { canDrive, isOutput, named, places, through, type RuleFinding } from './finding.js';

export function driveRules(net: AdapterNet, couplings: readonly Coupling[]): RuleFinding[] {
  const out: RuleFinding[] = [];
  const outputs = net.pins.filter(isOutput);
  const beyond = through(net, couplings);
  const drivers = [...net.pins, ...beyond].filter(canDrive);
  if (outputs.length > 1)
    out.push({
      rule: 'outputs-fight',
      severity: 'wrong',
      contacts: places(outputs),
      words: `${named(outputs)}: outputs against each other.`,
      remedy: 'Cross them: what one sends goes to what the other hears.',
    });
  const inputs = net.pins.filter(({ pin }) => pin.kind === 'input');
  const held = [...net.pins, ...beyond].some(({ pin }) => pin.kind === 'supply-out' || pin.kind === 'ground');
  if (inputs.length > 0 && drivers.length === 0 && !held)
    out.push({
      rule: 'input-undriven',
      severity: 'wrong',
      contacts: places(inputs),
      words: `${named(inputs)}: nothing drives ${inputs.length > 1 ? 'these inputs' : 'this input'}.`,
      remedy: 'Join an output, or hold it by a resistor to supply or ground.',
    });
  const collectors = net.pins.filter(({ pin }) => pin.kind === 'open-collector');
  const pulled =
    net.pins.some(({ pin }) => pin.pullUp) ||
    beyond.some(({ pin }) => pin.kind === 'supply-out') ||
    outputs.length > 0;
  if (collectors.length > 0 && !pulled)
    out.push({
      rule: 'no-pull-up',
      severity: 'wrong',
      contacts: places(net.pins),
      words: `${named(collectors)} is an open collector, and nothing pulls it up.`,
      remedy: 'Add a resistor of a few kilohm to the receiver’s supply.',
    });
  return out;
}
