import { SCREEN } from '../cabling/conductors.js';
import type { ToldFault } from './told.js';

const metres = (m: number): string => `${m.toFixed(1)} m`;
const both = ([one, other]: readonly [string, string]): string => `${one} and ${other}`;

function jointWords({
  end,
  contact,
  conductor,
  atM,
}: Extract<ToldFault, { kind: 'poor' | 'loose' }>): string {
  if (contact !== undefined) return `at contact ${contact} of the ${end} end`;
  return `in ${conductor ?? 'the cable'}${atM === undefined ? '' : ` at ${metres(atM)}`}`;
}

/** One thing that is wrong with a link, in a person's words; distances count from the near end. */
export function toldWords(fault: ToldFault): string {
  switch (fault.kind) {
    case 'wired':
      return `the ${fault.end} end carries, from its first contact on: ${fault.order.map((id) => id ?? 'nothing').join(', ')}`;
    case 'broken':
      return `${fault.conductor === SCREEN ? 'the screen' : fault.conductor} is broken at ${metres(fault.atM)}`;
    case 'joined':
      return `${both(fault.conductors)} touch at ${metres(fault.atM)}`;
    case 'screen-loose':
      return `the screen is not bonded at the ${fault.end} end`;
    case 'wet':
      return `wet or crushed for ${metres(fault.lengthM)} from ${metres(fault.atM)} on`;
    case 'unseated':
      return `the wire at contact ${fault.contact} of the ${fault.end} end does not reach its contact`;
    case 'bridged':
      return `contacts ${both(fault.contacts)} touch at the ${fault.end} end`;
    case 'poor':
      return `a poor joint of ${fault.ohm} ohm ${jointWords(fault)}`;
    case 'loose':
      return `a loose joint ${jointWords(fault)}, open ${Math.round(100 * fault.openShare)} % of the time`;
    case 'spliced':
      return `${both(fault.conductors)} are exchanged at a splice at ${metres(fault.atM)}`;
    case 'plugged-in':
      return `equipment is still connected at the ${fault.end} end`;
    case 'other-outlet':
      return 'the cable ends at another outlet';
  }
}
