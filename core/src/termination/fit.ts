import type { CableType } from '../cabling/cable-types.js';
import { followsScheme, type ConnectorType, type Span } from '../connectors/connector-types.js';
import { jointMm, sleeveOver } from './heat-shrink.js';

/** One figure of a cable held against what a connector takes. */
export interface FitCheck {
  what:
    | 'jacket'
    | 'conductor'
    | 'dielectric'
    | 'centre'
    | 'gauge'
    | 'wire'
    | 'screen'
    | 'kind'
    | 'count'
    | 'sleeve'
    | 'impedance';
  verdict: 'fits' | 'does not fit' | 'unknown';
  /** To the nearer limit, in millimetres or gauge numbers; negative is outside. Null where there is none. */
  margin: number | null;
  words: string;
}

const figure = (mm: number): string => `${Number(mm.toFixed(2))} mm`;

function spanCheck(
  what: FitCheck['what'],
  name: string,
  cableMm: number | null,
  takes: Span | null,
  lookAt: string,
): FitCheck {
  if (cableMm === null || takes === null) {
    const missing = cableMm === null ? 'the cable’s sheet, or measure it' : 'the sheet in the bag';
    return {
      what,
      verdict: 'unknown',
      margin: null,
      words: `${name}: unknown, look at ${missing}. ${lookAt}`,
    };
  }
  const margin = Math.min(cableMm - takes.min, takes.max - cableMm);
  const fits = margin >= 0;
  return {
    what,
    verdict: fits ? 'fits' : 'does not fit',
    margin,
    words: fits
      ? `${name} ${figure(cableMm)} within ${takes.min} to ${figure(takes.max)}, ${figure(margin)} to spare`
      : `${name} ${figure(cableMm)} is ${cableMm < takes.min ? 'too thin' : 'too thick'} by ${figure(-margin)}: it takes ${takes.min} to ${figure(takes.max)}`,
  };
}

function gaugeCheck(cable: CableType, connector: ConnectorType): FitCheck {
  const { awg } = connector.takes;
  if (!awg)
    return {
      what: 'gauge',
      verdict: 'unknown',
      margin: null,
      words: 'Gauge: unknown, look at the sheet in the bag.',
    };
  const margin = Math.min(cable.awg - awg.thickest, awg.thinnest - cable.awg);
  return {
    what: 'gauge',
    verdict: margin >= 0 ? 'fits' : 'does not fit',
    margin,
    words:
      margin >= 0
        ? `${cable.awg} AWG within ${awg.thickest} to ${awg.thinnest}`
        : `${cable.awg} AWG is too ${cable.awg < awg.thickest ? 'thick' : 'thin'}: it takes ${awg.thickest} to ${awg.thinnest}`,
  };
}

function wireCheck(cable: CableType, connector: ConnectorType): FitCheck {
  const { wire } = connector.takes;
  const check = (verdict: FitCheck['verdict'], words: string): FitCheck => ({
    what: 'wire',
    verdict,
    margin: null,
    words,
  });
  if (wire === 'either') return check('fits', 'Contacts for solid and stranded wire');
  if (wire === null)
    return check(
      'unknown',
      'Contact: unknown, look at its teeth. Two that straddle are for solid, one that pierces is for stranded.',
    );
  if (cable.stranded === null)
    return check('unknown', 'Wire: unknown, look at a cut end: solid or stranded?');
  const has = cable.stranded ? 'stranded' : 'solid';
  return has === wire
    ? check('fits', `Contacts for ${wire} wire, the cable has ${has}`)
    : check(
        'does not fit',
        `Contacts for ${wire} wire, the cable has ${has}: it makes contact today and lets go later`,
      );
}

function screenCheck(cable: CableType, connector: ConnectorType): FitCheck | null {
  if (cable.family === 'coax' || (!cable.screened && !connector.screened)) return null;
  const check = (verdict: FitCheck['verdict'], words: string): FitCheck => ({
    what: 'screen',
    verdict,
    margin: null,
    words,
  });
  if (connector.group === 'terminal')
    return check('fits', 'Screen to an earth terminal at one end of the run, insulated at the other');
  if (connector.assignment === 'screen-first' && cable.screened) return check('fits', 'Screen on contact 1');
  if (connector.group === 'splice')
    return check('fits', 'Screen to be joined through to the other side’s, apart from the wires');
  if (cable.screened && connector.screened) return check('fits', 'Screen to be bonded at the connector');
  if (cable.screened)
    return check('does not fit', 'The cable has a screen and this connector has nowhere to bond it');
  return check('fits', 'The connector has a shell, the cable no screen to bond: it works as unscreened');
}

const counted = (count: number, one: string, more: string): string => `${count} ${count === 1 ? one : more}`;

/** Whether the cable has the conductors that the connector's order asks for. */
function countCheck(cable: CableType, connector: ConnectorType): FitCheck | null {
  const check = (fits: boolean, words: string): FitCheck => ({
    what: 'count',
    verdict: fits ? 'fits' : 'does not fit',
    margin: null,
    words,
  });
  if (followsScheme(connector)) {
    const words = `Four pairs are laid, the cable has ${cable.pairs || 'none'}`;
    return check(cable.family === 'balanced' && cable.pairs === 4, words);
  }
  if (connector.assignment === 'ribbon') {
    const places = connector.contacts.length;
    return check(
      cable.conductors === places,
      `A ribbon of ${places} is pressed, this one has ${cable.conductors} wires`,
    );
  }
  if (connector.assignment === 'bus')
    return check(
      cable.pairs > 0,
      cable.pairs > 0
        ? 'A and B are one twisted pair, the common a further wire or the screen'
        : 'A bus runs on a twisted pair, the cable has none',
    );
  if (connector.assignment === 'screen-first') {
    const wires = connector.contacts.length - 1;
    const words = `Screen on 1 and ${wires} wires, the cable has ${cable.conductors}${cable.screened ? ' in a screen' : ' and no screen'}`;
    return check(cable.screened && cable.conductors === wires, words);
  }
  if (connector.assignment === 'pair-count' || connector.assignment === 'pair-rows') {
    const places = connector.contacts.length / 2;
    if (cable.pairs > places)
      return {
        what: 'count',
        verdict: connector.assignment === 'pair-rows' ? 'does not fit' : 'unknown',
        margin: null,
        words: `${places} pairs are laid here, the cable has ${cable.pairs}: ${Math.ceil(cable.pairs / places)} of these, one after another by the count. Are they there?`,
      };
  }
  if (['pair-count', 'pair-rows', 'british'].includes(connector.assignment)) {
    const left = connector.contacts.length - 2 * cable.pairs;
    const free = connector.assignment !== 'british' && left > 0 ? `; ${left} contacts stay free` : '';
    return check(
      cable.pairs > 0,
      cable.pairs > 0 ? `Pairs are laid by their count${free}` : 'Pairs are laid, the cable has none',
    );
  }
  if (connector.assignment === 'one-to-one' || connector.assignment === 'modular-6') {
    const [wires, places] = [cable.conductors, connector.contacts.length];
    const has = `${places} contacts, the cable has ${wires} wires`;
    if (wires === places) return check(true, has);
    const left =
      wires < places
        ? `${counted(places - wires, 'contact stays', 'contacts stay')} free`
        : `${counted(wires - places, 'wire stays', 'wires stay')} over, to be insulated one by one`;
    // Lines nest about the middle of six places: one line in them is as usual as three.
    if (connector.assignment === 'modular-6') return check(true, `${has}: ${left}`);
    return {
      what: 'count',
      verdict: 'unknown',
      margin: null,
      words: `${has}: ${left}. Is that meant? If not, look at the drawing.`,
    };
  }
  return null;
}

/** Coax bodies are made for an impedance: another one reflects, and a 50-ohm pin spreads a 75-ohm socket. */
function impedanceCheck(cable: CableType, { impedanceOhm }: ConnectorType): FitCheck[] {
  if (impedanceOhm === undefined) return [];
  const same = Math.abs(cable.impedanceOhm - impedanceOhm) < 5;
  return [
    {
      what: 'impedance',
      verdict: same ? 'fits' : 'does not fit',
      margin: null,
      words: same
        ? `Made for ${impedanceOhm} ohm, as the cable`
        : `Made for ${impedanceOhm} ohm, the cable has ${cable.impedanceOhm}: it reflects, and pins and sockets of the two are not alike`,
    },
  ];
}

/** Whether any tube slides over the joint of these wires and still grips them. */
function sleeveCheck({ conductorMm, bareMm }: CableType, connector: ConnectorType): FitCheck | null {
  if (connector.recipe !== 'splice-solder' || conductorMm === null || bareMm === null) return null;
  const sleeve = sleeveOver([conductorMm], jointMm(bareMm, bareMm), 1);
  const words = sleeve
    ? `Sleeve: a ${sleeve.tube.suppliedMm} mm tube ${sleeve.tube.ratio} passes the joint and grips the wire`
    : 'Sleeve: no tube passes the joint and grips the wire; shrink a short one on each wire first, or take another splice';
  return { what: 'sleeve', verdict: sleeve ? 'fits' : 'does not fit', margin: null, words };
}

/**
 * Holds every figure of a cable against what a connector takes. A figure that is missing on either
 * side comes out as unknown with where to look, never as a yes.
 */
export function checkFit(cable: CableType, connector: ConnectorType): FitCheck[] {
  const coaxial = connector.group === 'coax';
  if (coaxial !== (cable.family === 'coax')) {
    const words = `It is not made for ${cable.name}: one is coaxial, the other is not`;
    return [{ what: 'kind', verdict: 'does not fit', margin: null, words }];
  }
  const ribbon = connector.group === 'ribbon';
  if (ribbon !== (cable.family === 'ribbon')) {
    const words = `It is not made for ${cable.name}: one is for ribbon, the other is not`;
    return [{ what: 'kind', verdict: 'does not fit', margin: null, words }];
  }
  if (connector.group === 'splice' && cable.family === 'balanced' && cable.use !== 'telephone')
    return [
      {
        what: 'kind',
        verdict: 'does not fit',
        margin: null,
        words:
          'The cabling standards permit no splice in horizontal data cable: end it in a jack on each side and join them by a cord or a coupler, or pull a new run',
      },
    ];
  const { takes } = connector;
  if (coaxial) {
    return [
      spanCheck(
        'jacket',
        'Jacket',
        cable.jacketMm,
        takes.jacketMm,
        'Measure over the jacket with a calliper.',
      ),
      spanCheck(
        'dielectric',
        'Dielectric',
        cable.dielectricMm,
        takes.dielectricMm,
        'Measure over the dielectric at a cut end.',
      ),
      spanCheck('centre', 'Centre conductor', cable.bareMm, takes.bareMm, 'Measure the bare centre.'),
      wireCheck(cable, connector),
      ...impedanceCheck(cable, connector),
    ];
  }
  const checks: (FitCheck | null)[] = [
    countCheck(cable, connector),
    connector.group === 'splice'
      ? null
      : spanCheck(
          'jacket',
          'Jacket',
          cable.jacketMm,
          takes.jacketMm,
          'Measure over the jacket with a calliper.',
        ),
    spanCheck(
      'conductor',
      'Insulated conductor',
      cable.conductorMm,
      takes.conductorMm,
      'Measure one conductor over its insulation.',
    ),
    takes.bareMm === null
      ? null
      : spanCheck('centre', 'Bare conductor', cable.bareMm, takes.bareMm, 'Measure the bare metal.'),
    gaugeCheck(cable, connector),
    wireCheck(cable, connector),
    screenCheck(cable, connector),
    sleeveCheck(cable, connector),
  ];
  return checks.filter((check) => check !== null);
}
