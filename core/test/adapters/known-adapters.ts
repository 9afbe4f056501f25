import type { AdapterDesign, AdapterEnd, InlinePart, Join, Pin, PinKind, RuleId } from '@near-spoke/core';

const KINDS: Readonly<Record<string, PinKind>> = {
  so: 'supply-out',
  si: 'supply-in',
  g: 'ground',
  i: 'input',
  o: 'output',
  b: 'both',
  oc: 'open-collector',
  v: 'video',
  a: 'audio',
  sh: 'shield',
  nc: 'not-connected',
  r: 'reserved',
};

/**
 * Pins as words: "3 TXD o" is contact 3, signal TXD, an output. Marks: `!` needed, `^` with its own
 * pull-up, `~name` on one pair with its like, `@5` or `@4.5..5.5` volts, `*0.5` amperes, `=levels`.
 */
export function pins(words: string, levels: string | null = null): Pin[] {
  return words.split(',').map((one): Pin => {
    const [contact = '', signal = '', kind = '', ...marks] = one.trim().split(' ');
    const mark = (sign: string): string | undefined => marks.find((each) => each.startsWith(sign))?.slice(1);
    const [from, to = from] = (mark('@') ?? '').split('..');
    const pinKind = KINDS[kind];
    if (!pinKind) throw new Error(`${one}: no kind ${kind}`);
    const carries = ['input', 'output', 'both', 'open-collector'].includes(pinKind);
    return {
      contact,
      signal,
      kind: pinKind,
      levels: mark('=') ?? (carries ? levels : null),
      volts: from ? [Number(from), Number(to)] : null,
      currentA: Number(mark('*') ?? 0),
      needed: marks.includes('!'),
      pullUp: marks.includes('^'),
      together: mark('~') ?? null,
      source: 'sheet',
    };
  });
}

export const end = (
  id: string,
  name: string,
  connector: string,
  words: string,
  levels: string | null = null,
  contactBearsA = 1,
): AdapterEnd => ({ id, name, connector, sheetFace: 'mating', contactBearsA, pins: pins(words, levels) });

/** Joins as words: "A3-B2 A5-B5". */
export function joins(words: string, parts: Readonly<Record<string, InlinePart[]>> = {}): Join[] {
  return words.split(' ').map((word): Join => {
    const [from = '', to = ''] = word.split('-').map((place) => place.replace(/^([A-Z])/, '$1 '));
    const placed = (text: string): Join['from'] => {
      const [endId = '', contact = ''] = text.split(' ');
      return { end: endId, contact };
    };
    return { from: placed(from), to: placed(to), parts: parts[word] ?? [] };
  });
}

const part = (kind: InlinePart['kind'], ohm?: number): InlinePart => ({
  kind,
  words: '',
  ...(ohm === undefined ? {} : { ohm }),
});
export const stage = [part('level stage')];

/** Serial, as a terminal sees it (TIA-574), as a modem does, and on 25 and 8 contacts (TIA-232, TIA-561). */
const DTE9 = '1 DCD i,2 RXD i,3 TXD o,4 DTR o,5 GND g,6 DSR i,7 RTS o,8 CTS i,9 RI i';
const DCE9 = '1 DCD o,2 RXD o,3 TXD i,4 DTR i,5 GND g,6 DSR o,7 RTS i,8 CTS o,9 RI o';
const DCE25 = '1 SHIELD sh,2 TXD i,3 RXD o,4 RTS i,5 CTS o,6 DSR o,7 GND g,8 DCD o,20 DTR i,22 RI o';
const DTE8 = '1 DSR i,2 DCD i,3 DTR o,4 GND g,5 RXD i,6 TXD o,7 CTS i,8 RTS o';
const dte = (id: string): AdapterEnd => end(id, `terminal ${id}`, 'DE-9 plug', DTE9, 'rs-232');
const uart = (id: string, levels: string): AdapterEnd =>
  end(id, `logger ${id}`, '1x4 header', '1 GND g,2 TXD o,3 RXD i !,4 3V3 so @3.1..3.5 *0.1', levels);
const USB_HOST = '1 VBUS so @4.75..5.25 *0.5,2 D- b ~usb,3 D+ b ~usb,4 GND g';
const USB_DEVICE = '1 VBUS si @4.4..5.25 *0.4 !,2 D- b ~usb,3 D+ b ~usb,4 GND g';
const NULL_MODEM = 'A2-B3 A3-B2 A5-B5 A7-B8 A8-B7 A4-B6 A6-B4';

export interface KnownAdapter {
  what: string;
  design: AdapterDesign;
  /** Rules that must say wrong, all of them; none for a good one. */
  wrong: RuleId[];
  /** Rules that must say unsure, all of them. */
  unsure: RuleId[];
  /** What is planted, where something is. */
  planted?: true;
}

const adapter = (
  what: string,
  ends: readonly AdapterEnd[],
  joined: Join[],
  { wrong = [], unsure = [], planted }: { wrong?: RuleId[]; unsure?: RuleId[]; planted?: true } = {},
): KnownAdapter => ({
  what,
  design: { name: what, ends, joins: joined, wires: [], lengthM: 1.5 },
  wrong,
  unsure,
  ...(planted ? { planted } : {}),
});

export const KNOWN_ADAPTERS: readonly KnownAdapter[] = [
  adapter('two terminals, crossed', [dte('A'), dte('B')], joins(NULL_MODEM)),
  adapter(
    'terminal to modem on 25 contacts, straight by signal',
    [dte('A'), end('B', 'modem', 'DB-25 socket', DCE25, 'rs-232')],
    joins('A3-B2 A2-B3 A7-B4 A8-B5 A6-B6 A5-B7 A1-B8 A4-B20 A9-B22'),
  ),
  adapter(
    'terminal to modem on 9 contacts, straight',
    [dte('A'), end('B', 'modem', 'DE-9 socket', DCE9, 'rs-232')],
    joins('A1-B1 A2-B2 A3-B3 A4-B4 A5-B5 A6-B6 A7-B7 A8-B8 A9-B9'),
  ),
  adapter(
    'terminal to an eight-contact modular serial port',
    [dte('A'), end('B', 'rack switch', '8P8C socket', DTE8, 'rs-232')],
    joins('A2-B6 A3-B5 A5-B4 A7-B7 A8-B8 A4-B1 A6-B3'),
  ),
  adapter(
    'two modular serial ports, every contact to its mirror',
    [end('A', 'port', '8P8C socket', DTE8, 'rs-232'), end('B', 'port', '8P8C socket', DTE8, 'rs-232')],
    joins('A5-B6 A6-B5 A4-B4 A7-B8 A8-B7 A3-B1 A1-B3'),
  ),
  adapter(
    'terminal with its own handshake looped back',
    [dte('A'), end('B', 'scale', 'screw terminals', '1 RXD i !,2 TXD o,3 GND g', 'rs-232')],
    joins('A3-B1 A2-B2 A5-B3 A7-A8 A4-A6'),
  ),
  adapter(
    'logger of 3.3 V to a 5 V input that reads it',
    [uart('A', 'cmos-3v3'), uart('B', 'ttl-5')],
    joins('A1-B1 A2-B3'),
    {
      // The other way was left out: its input waits for nothing.
      wrong: ['input-undriven'],
      planted: true,
    },
  ),
  adapter(
    'logger of 3.3 V that bears 5 V, both ways',
    [uart('A', 'cmos-3v3-5t'), uart('B', 'ttl-5')],
    joins('A1-B1 A2-B3 A3-B2'),
  ),
  adapter(
    'logger of 3.3 V to a terminal through a line driver',
    [dte('A'), uart('B', 'cmos-3v3')],
    joins('A5-B1 A2-B2 A3-B3', { 'A2-B2': stage, 'A3-B3': stage }),
  ),
  adapter(
    'logger of 3.3 V straight on a terminal',
    [dte('A'), uart('B', 'cmos-3v3')],
    joins('A5-B1 A2-B2 A3-B3'),
    {
      wrong: ['levels-damage', 'levels-unread'],
      planted: true,
    },
  ),
  adapter('two terminals, like to like', [dte('A'), dte('B')], joins('A2-B2 A3-B3 A5-B5'), {
    wrong: ['outputs-fight', 'input-undriven'],
    planted: true,
  }),
  adapter('two terminals without a ground', [dte('A'), dte('B')], joins('A2-B3 A3-B2'), {
    wrong: ['ground-missing'],
    planted: true,
  }),
  adapter(
    'board and programmer that both feed it',
    [uart('A', 'cmos-3v3'), uart('B', 'cmos-3v3')],
    joins('A1-B1 A2-B3 A3-B2 A4-B4'),
    { wrong: ['two-sources'], planted: true },
  ),
  adapter(
    'device of 5 V on a 12 V outlet',
    [
      end('A', 'outlet', 'barrel', '1 +12V so @11.4..12.6 *2,2 GND g'),
      end('B', 'player', 'barrel', '1 VIN si @4.5..5.5 *0.8 !,2 GND g'),
    ],
    joins('A1-B1 A2-B2'),
    { wrong: ['supply-out-of-range'], planted: true },
  ),
  adapter(
    'pump on a pin that bears half of what it takes',
    [
      end('A', 'controller', '1x2 header', '1 +12V so @11..13 *4,2 GND g', null, 1),
      end('B', 'pump', 'screw terminals', '1 VIN si @10..14 *2 !,2 GND g', null, 8),
    ],
    joins('A1-B1 A2-B2'),
    { wrong: ['contact-current'], planted: true },
  ),
  adapter(
    'device of serial bus to host',
    [
      end('A', 'host', 'USB A socket', USB_HOST, 'cmos-3v3'),
      end('B', 'sensor', 'USB B socket', USB_DEVICE, 'cmos-3v3'),
    ],
    joins('A1-B1 A2-B2 A3-B3 A4-B4'),
  ),
  adapter(
    'device of serial bus with one data wire',
    [
      end('A', 'host', 'USB A socket', USB_HOST, 'cmos-3v3'),
      end('B', 'sensor', 'USB B socket', USB_DEVICE, 'cmos-3v3'),
    ],
    joins('A1-B1 A2-B2 A4-B4'),
    { wrong: ['pair-incomplete'], planted: true },
  ),
  adapter(
    'alarm contact, open collector, with a pull-up at the panel',
    [
      end('A', 'detector', 'screw terminals', '1 ALARM oc,2 GND g'),
      end('B', 'panel', 'screw terminals', '1 ZONE i ^ !,2 GND g', 'cmos-5'),
    ],
    joins('A1-B1 A2-B2'),
  ),
  adapter(
    'alarm contact with nothing to pull it up',
    [
      end('A', 'detector', 'screw terminals', '1 ALARM oc,2 GND g'),
      end('B', 'panel', 'screw terminals', '1 ZONE i !,2 GND g', 'cmos-5'),
    ],
    joins('A1-B1 A2-B2'),
    { wrong: ['no-pull-up'], planted: true },
  ),
  adapter(
    'programming header of six contacts to one of ten',
    [
      end(
        'A',
        'programmer',
        '2x5 header',
        '1 MOSI o,2 VCC so @4.5..5.5 *0.2,3 NC nc,4 GND g,5 RESET o,6 GND2 g,7 SCK o,8 GND3 g,9 MISO i !,10 GND4 g',
        'cmos-5',
      ),
      end(
        'B',
        'board',
        '2x3 header',
        '1 MISO o,2 VCC si @4.5..5.5 *0.1 !,3 SCK i !,4 MOSI i !,5 RESET i ^ !,6 GND g',
        'cmos-5',
      ),
    ],
    joins('A9-B1 A2-B2 A7-B3 A1-B4 A5-B5 A4-B6'),
  ),
  adapter(
    'two-wire sensor bus with pull-ups on the board',
    [
      end('A', 'board', '1x4 header', '1 3V3 so @3.1..3.5 *0.2,2 SDA b ^,3 SCL o,4 GND g', 'cmos-3v3'),
      end('B', 'sensor', '1x4 header', '1 VDD si @2.7..3.6 *0.01 !,2 SDA b,3 SCL i !,4 GND g', 'cmos-3v3'),
    ],
    joins('A1-B1 A2-B2 A3-B3 A4-B4'),
  ),
  adapter(
    'monitor on fifteen contacts, colours and syncs',
    [
      end(
        'A',
        'display card',
        'DE-15 socket',
        '1 RED v ~r,2 GREEN v ~g,3 BLUE v ~b,6 RGND g,7 GGND g,8 BGND g,10 SGND g,13 HSYNC o,14 VSYNC o',
        'ttl-5',
      ),
      end(
        'B',
        'monitor',
        'DE-15 plug',
        '1 RED v ~r,2 GREEN v ~g,3 BLUE v ~b,6 RGND g,7 GGND g,8 BGND g,10 SGND g,13 HSYNC i !,14 VSYNC i !',
        'ttl-5',
      ),
    ],
    joins('A1-B1 A2-B2 A3-B3 A6-B6 A7-B7 A8-B8 A10-B10 A13-B13 A14-B14'),
  ),
  adapter(
    'two telephone lines from one socket to two',
    [
      end('A', 'wall socket', '6P4C', '2 LINE2-A a ~l2,3 LINE1-B a ~l1,4 LINE1-A a ~l1,5 LINE2-B a ~l2'),
      end('B', 'telephone', '6P2C', '3 B a ~l,4 A a ~l'),
      end('C', 'fax', '6P2C', '3 B a ~l,4 A a ~l'),
    ],
    joins('A3-B3 A4-B4 A5-C3 A2-C4'),
  ),
  adapter(
    'second telephone line on one leg',
    [
      end('A', 'wall socket', '6P4C', '2 LINE2-A a ~l2,3 LINE1-B a ~l1,4 LINE1-A a ~l1,5 LINE2-B a ~l2'),
      end('C', 'fax', '6P2C', '3 B a ~l,4 A a ~l'),
    ],
    joins('A3-C3 A2-C4'),
    { wrong: ['pair-incomplete', 'pair-incomplete'], planted: true },
  ),
  adapter(
    'stereo jack to two phono plugs',
    [
      end('A', 'player', 'phone plug, 3 contacts', 'T LEFT a,R RIGHT a,S GND g'),
      end('B', 'amplifier left', 'phono', 'C LEFT a,S GND g'),
      end('C', 'amplifier right', 'phono', 'C RIGHT a,S GND g'),
    ],
    joins('AT-BC AR-CC AS-BS AS-CS'),
  ),
  adapter(
    'microphone lead with its shield on both frames',
    [
      end('A', 'microphone', 'XLR', '1 GND g,2 HOT a ~m,3 COLD a ~m,S SHELL sh'),
      end('B', 'mixer', 'XLR', '1 GND g,2 HOT a ~m,3 COLD a ~m,S SHELL sh'),
    ],
    joins('A1-B1 A2-B2 A3-B3 AS-BS'),
    { unsure: ['shield'] },
  ),
  adapter(
    'intercom tail of seven wires',
    [
      end(
        'A',
        'gangway post',
        'M12',
        '1 +12V so @11..13 *0.5,2 GND g,3 MIC a ~m,4 MIC-RETURN a ~m,5 CALL i ^,6 LAMP o,7 SHIELD sh',
        'ttl-5',
      ),
      end(
        'B',
        'bridge',
        'mini-DIN 8',
        '1 VIN si @10..14 *0.2 !,2 GND g,3 MIC a ~m,4 MIC-RETURN a ~m,5 CALL oc,6 LAMP i !',
        'ttl-5',
      ),
    ],
    joins('A1-B1 A2-B2 A3-B3 A4-B4 A5-B5 A6-B6'),
  ),
  adapter(
    'hand-box: two push-buttons and a lamp with its resistor',
    [
      end(
        'A',
        'dome drive',
        'phone plug, 4 contacts',
        'T OPEN i ^ !,1 CLOSE i ^ !,2 LAMP o,S GND g',
        'cmos-5',
      ),
      end('B', 'hand-box', 'flying leads', '1 OPEN-KEY g,2 CLOSE-KEY g,3 LED-A nc,4 COMMON g'),
    ],
    joins('AT-B1 A1-B2 AS-B4', { 'AT-B1': [part('switch')], 'A1-B2': [part('switch')] }),
  ),
  adapter(
    'sensor of 24 V to a controller’s input, divided',
    [
      end('A', 'sensor', 'M12', '1 L+ si @18..30 *0.1 !,3 M g,4 OUT o', 'cmos-5'),
      end('B', 'controller', 'screw terminals', '1 24V so @20..28 *1,2 M g,3 IN i !', 'cmos-5'),
    ],
    joins('A1-B1 A3-B2 A4-B3'),
  ),
  adapter(
    'half-duplex bus of two wires and a ground',
    [
      end('A', 'meter', 'screw terminals', '1 A b ~bus,2 B b ~bus,3 GND g', 'cmos-5'),
      end('B', 'master', 'screw terminals', '1 A b ~bus,2 B b ~bus,3 GND g', 'cmos-5'),
    ],
    joins('A1-B1 A2-B2 A3-B3'),
  ),
  adapter(
    'supply on the ground of the other end',
    [
      end('A', 'outlet', '1x2 header', '1 +5V so @4.8..5.2 *1,2 GND g'),
      end('B', 'lamp', '1x2 header', '1 GND g,2 VIN si @4.5..5.5 *0.1 !'),
    ],
    joins('A1-B1 A2-B2'),
    { wrong: ['ground-to-supply', 'ground-to-supply'], planted: true },
  ),
  adapter(
    'reserved contact taken for a ground',
    [
      end('A', 'display', '2x5 header', '1 TX o,2 GND g,3 FACTORY r', 'cmos-3v3'),
      end('B', 'board', '1x3 header', '1 RX i !,2 GND g,3 KEY i', 'cmos-3v3'),
    ],
    joins('A1-B1 A2-B2 A3-B3'),
    { wrong: ['joined-not-connected', 'input-undriven'], planted: true },
  ),
];
