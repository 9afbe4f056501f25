import type { CableType } from '../cabling/cable-types.js';
import { followsScheme, type ConnectorType } from '../connectors/connector-types.js';

/**
 * What has to be so before the first step of an end, by the kind of circuit the cable is made to carry and the place it
 * lies in. A hand that is in the middle of a card is never stopped by a question that belongs before it.
 */
export function beforeWork(cable: CableType, connector: ConnectorType): string[] {
  const lines: string[] = [];
  if (connector.group === 'splice')
    lines.push(
      'Not for mains or any other hazardous voltage: that takes a sleeve rated for it and a licensed person.',
    );
  else if (cable.family === 'coax')
    lines.push(
      'Supply of amplifiers and of anything fed through the cable off, and both ends unplugged: a screen may carry what is earthed elsewhere.',
    );
  else if (cable.use !== 'telephone' && (followsScheme(connector) || connector.group === 'modular plug'))
    lines.push(
      'Both ends unplugged: a port that feeds power stands at up to 57 V, and contacts drawn apart under load burn.',
    );
  else if (connector.group === 'terminal')
    lines.push(
      cable.use === 'audio'
        ? 'Amplifier off and unplugged: two speaker wires that touch are a short across its output.'
        : 'Supply off, its battery unplugged too, and the terminals proved dead: panels, doors and buses go on from a battery when the mains is off. An alarm, a lift or a fire line only with its user’s permission; what carries mains belongs to a licensed person.',
    );
  else if (connector.group === 'solder cup' || connector.group === 'ribbon')
    lines.push('Both ends unplugged, equipment off: what is still fed is shorted by the first strand.');
  if (cable.family === 'coax' && !cable.outdoor)
    lines.push(
      'Does it come from an aerial, or run outdoors anywhere? Then it is outdoor work whatever its jacket: seal it, leave a drip loop, and lightning protection and bonding belong to a licensed person.',
    );
  if (cable.outdoor)
    lines.push(
      'A cable from outdoors: surge protection and bonding where it enters belong to a licensed person, and its jacket may run indoors only as far as the local code allows (often 15 m) before it goes into a pipe or is joined to cable made for indoors.',
    );
  if (cable.fillers.includes('gel') && connector.tools.some(({ kind }) => kind === 'heat gun'))
    lines.push(
      'Gel and solvents burn: wipe them off and take them away before hot air or a flame comes near.',
    );
  return lines;
}
