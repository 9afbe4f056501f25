import { conductorCode } from '../cabling/conductor-paint.js';
import type { ContactId } from '../cabling/schemes.js';
import type { Scene, SceneShape } from '../drawing/scene.js';
import { slotRows, type ConnectorType } from './connector-types.js';
import { heldOrder, lookAt, PLUG_8P, SOCKET_8P, type CableFrom } from './faces.js';
import { wiringFace } from './wiring-faces.js';

/** What is on each contact; null for one that stays empty. */
export type OnContacts = readonly { contact: ContactId; conductor: string | null }[];
type Latch = 'down' | 'up';

const conductorOn = (order: OnContacts, contact: ContactId): string | null =>
  order.find((line) => line.contact === contact)?.conductor ?? null;

/** Drawn pitch of an 8-contact plug. */
const PITCH = 48;
const TURNS: Readonly<Record<CableFrom, number>> = { below: 0, left: 90, right: -90 };

/**
 * An 8-contact plug as the person holds it: seen from above, latch down or up, cable from below, from the left hand or
 * from the right. Turning the picture never changes which contact is which.
 * @param unread contacts of which nobody knows what lies there
 */
export function plugScene(
  order: OnContacts,
  {
    latch = 'down',
    cableFrom = 'below',
    unread = [],
  }: { latch?: Latch; cableFrom?: CableFrom; unread?: readonly ContactId[] } = {},
): Scene {
  const codeAt = (contact: ContactId): string =>
    unread.includes(contact) ? '?' : conductorCode(conductorOn(order, contact));
  const half = 3.5 * PITCH;
  // It is drawn with the cable below and turned as a whole, so the order across it is that of "below".
  const across = heldOrder(PLUG_8P, latch, 'below').map((contact, i) => ({
    contact,
    x: i * PITCH - half,
    gather: (i - 3.5) * 20,
    conductor: conductorOn(order, contact),
  }));
  const side = cableFrom !== 'below';
  return {
    x: -215,
    y: -215,
    width: 430,
    height: side ? 430 : 405,
    turnDeg: TURNS[cableFrom],
    shapes: [
      { is: 'box', x: -212, y: -190, width: 424, height: 196, round: 12, as: 'hidden-body' },
      ...(latch === 'up'
        ? [{ is: 'box', x: -52, y: -190, width: 104, height: 150, round: 8, as: 'latch' } as const]
        : []),
      ...across.flatMap(({ contact, x, gather, conductor }): SceneShape[] => [
        ...(conductor === null
          ? []
          : [
              {
                is: 'wire',
                d: `M${x} -130V-10C${x} 40 ${gather} 40 ${gather} 96`,
                conductor,
                width: 22,
              } as const,
            ]),
        ...(latch === 'down'
          ? [{ is: 'box', x: x - 7, y: -182, width: 14, height: 46, round: 2, as: 'metal' } as const]
          : []),
        {
          is: 'contact',
          x,
          y: -56,
          width: 45,
          height: 40,
          contact,
          contactY: -3,
          code: { words: codeAt(contact), y: 13, empty: false },
          sample: null,
        },
      ]),
      { is: 'box', x: -94, y: 92, width: 188, height: 86, round: 9, as: 'jacket' },
      { is: 'words', x: 0, y: 138, words: 'jacket', as: 'on-jacket', anchor: 'middle' },
    ],
    words:
      `Plug, latch ${latch}, ${side ? 'from the top' : 'from the left'}: ` +
      heldOrder(PLUG_8P, latch, cableFrom)
        .map((contact) => `${contact} ${codeAt(contact)}`)
        .join(', '),
    note: `${latch === 'down' ? 'Latch down, contacts up' : 'Latch up: the order reads 8 to 1'}; ${
      side ? `cable from your ${cableFrom} hand` : 'cable towards you'
    }.`,
  };
}

/** Drawing units to a millimetre of a mating face. */
const FRONT_SCALE = 47;

/** The mating face of an 8-contact plug or jack: what the other connector sees. */
export function frontScene(
  order: OnContacts,
  { latch = 'down', jack = false }: { latch?: Latch; jack?: boolean } = {},
): Scene {
  const places = lookAt(jack ? SOCKET_8P : PLUG_8P, { face: 'mating', latch })
    .map(({ contact, xMm }) => ({ contact, x: xMm * FRONT_SCALE, conductor: conductorOn(order, contact) }))
    .sort((a, b) => a.x - b.x);
  const down = latch === 'down';
  return {
    x: -230,
    y: -150,
    width: 460,
    height: 300,
    turnDeg: 0,
    shapes: [
      {
        is: 'outline',
        d: down ? 'M-212 -120H212V96H70V134H-70V96H-212Z' : 'M212 120H-212V-96H-70V-134H70V-96H212Z',
        as: jack ? 'socket-body' : 'body',
      },
      ...places.flatMap(({ contact, x, conductor }): SceneShape[] => [
        { is: 'box', x: x - 8, y: down ? -114 : 68, width: 16, height: 46, round: 2, as: 'metal' },
        {
          is: 'contact',
          x,
          y: down ? 27 : -25,
          width: 44,
          height: 42,
          contact,
          contactY: -3,
          code: { words: conductorCode(conductor), y: 14, empty: false },
          sample: conductor === null ? null : { conductor, y: -33, width: 44, height: 9 },
        },
      ]),
    ],
    words:
      `Mating face of the ${jack ? 'jack' : 'plug'}, latch ${latch}, from the left: ` +
      places.map(({ contact, conductor }) => `${contact} ${conductorCode(conductor)}`).join(', '),
    note: `Looking into the ${jack ? 'jack' : 'plug'} from the front, ${jack ? 'latch notch' : 'latch'} ${latch}.`,
  };
}

/** From slot to slot of a jack, along its body. */
const SLOT_STEP = 62;

/** A jack's two rows of slots as the wiring label shows them; slots are not in contact order. */
export function slotsScene(connector: Pick<ConnectorType, 'slots'>, order: OnContacts): Scene {
  const { left, right } = slotRows(connector);
  const rows = [
    { side: -1, slots: left },
    { side: 1, slots: right },
  ] as const;
  const top = 80 - (Math.max(left.length, right.length) - 1) * SLOT_STEP - 34;
  const say = (slots: readonly { contact: ContactId }[]): string =>
    slots
      .map(({ contact }) => {
        const conductor = conductorOn(order, contact);
        return conductor === null
          ? `contact ${contact} empty`
          : `${conductorCode(conductor)} to contact ${contact}`;
      })
      .join(', ');
  return {
    x: -230,
    y: top - 10,
    width: 460,
    height: 205 - top,
    turnDeg: 0,
    shapes: [
      { is: 'box', x: -96, y: top, width: 192, height: 112 - top, round: 10, as: 'body' },
      { is: 'box', x: -34, y: 120, width: 68, height: 70, round: 7, as: 'jacket' },
      { is: 'words', x: 0, y: 158, words: 'jacket', as: 'on-jacket', anchor: 'middle' },
      ...rows.flatMap(({ side, slots }) =>
        slots.flatMap(({ contact }, place): SceneShape[] => {
          const [x, y] = [side * SLOT_STEP, 80 - place * SLOT_STEP];
          // The lowest slot turns out first, so its wire runs outermost and crosses no other.
          const root = side * (31 - place * 8);
          const conductor = conductorOn(order, contact);
          return [
            ...(conductor === null
              ? []
              : [
                  {
                    is: 'wire',
                    // From the jacket up the middle, then out through the slot to the waste side.
                    d: `M${root} 124V${y + 24}Q${root} ${y} ${side * 34} ${y}H${side * 148}`,
                    conductor,
                    width: 9,
                  } as const,
                ]),
            { is: 'contact', x, y, width: 52, height: 38, contact, contactY: 6, code: null, sample: null },
            {
              is: 'words',
              x: side * 158,
              y: y + 5,
              words: conductor === null ? 'empty' : conductorCode(conductor),
              as: 'code',
              anchor: side < 0 ? 'end' : 'start',
            },
          ];
        }),
      ),
    ],
    words: `Jack slots from the cable side. Left: ${say(left)}. Right: ${say(right)}.`,
    note: 'Cable side down. Typical order: the label on the one in your hand wins.',
  };
}

/** The box of a contact with what is on it, and the room that it takes where boxes stand beside each other. */
const BOX = { width: 54, height: 46, stepX: 62, stepY: 54 };
/** A list so long is set in more columns; on a narrow sheet in fewer than on a screen, to be read. */
const LONG_LIST = 12;
const COLUMNS = { few: 5, wide: 10, narrow: 7 };

/**
 * Contacts with the conductors that go on them, as the person wiring sees them: where the connector's geometry is known
 * each stands in its place, otherwise they are listed in order.
 */
export function wiredScene(
  connector: Pick<ConnectorType, 'face' | 'group'>,
  order: OnContacts,
  narrow = false,
): Scene {
  const places = wiringFace(connector.face);
  const scale = places ? (BOX.stepX + 4) / nearest(places.map(({ xMm, yMm }) => [xMm, yMm])) : 1;
  const columns = order.length > LONG_LIST ? COLUMNS[narrow ? 'narrow' : 'wide'] : COLUMNS.few;
  const spots = places
    ? places.map(({ contact, xMm, yMm }) => ({ contact, x: xMm * scale, y: -yMm * scale }))
    : order.map(({ contact }, i) => ({
        contact,
        x: (i % columns) * (BOX.stepX + 2),
        y: Math.floor(i / columns) * BOX.stepY,
      }));
  const [xs, ys] = [spots.map(({ x }) => x), spots.map(({ y }) => y)];
  const [left, top] = [Math.min(...xs) - 42, Math.min(...ys) - 38];
  const [width, height] = [Math.max(...xs) + 42 - left, Math.max(...ys) + 38 - top];
  return {
    x: left - 4,
    y: top - 4,
    width: width + 8,
    height: height + 8,
    turnDeg: 0,
    shapes: [
      ...(places ? [{ is: 'box', x: left, y: top, width, height, round: 14, as: 'body' } as const] : []),
      ...spots.map(({ contact, x, y }): SceneShape => {
        const conductor = conductorOn(order, contact);
        return {
          is: 'contact',
          x,
          y,
          width: BOX.width,
          height: BOX.height,
          contact,
          contactY: -6,
          code:
            conductor === null
              ? { words: 'empty', y: 12, empty: true }
              : { words: conductorCode(conductor), y: 19, empty: false },
          sample: conductor === null ? null : { conductor, y: 0, width: 42, height: 8 },
        };
      }),
    ],
    words: `Contacts: ${spots
      .map(({ contact }) => {
        const conductor = conductorOn(order, contact);
        return `${contact} ${conductor === null ? 'empty' : conductorCode(conductor)}`;
      })
      .join(', ')}`,
    note: noteOf(connector),
  };
}

function noteOf({ face, group }: Pick<ConnectorType, 'face' | 'group'>): string {
  if (face === 'plug-6') return 'Latch down, contacts up, cable towards you.';
  if (face === 'ribbon-10') return 'From the cable side, keyway down, conductor 1 at contact 1.';
  if (group === 'ribbon') return 'From the cable side, conductor 1 at contact 1.';
  if (group === 'solder cup')
    return 'Solder side, the mirror of the mating face. The numbers moulded beside the cups win.';
  if (face === 'block') return 'In counting order, tip before ring.';
  return 'In contact order.';
}

/** The least distance between two places, so that no two boxes overlap. */
function nearest(points: readonly (readonly [number, number])[]): number {
  let least = Infinity;
  points.forEach(([x, y], i) => {
    for (const [a, b] of points.slice(i + 1)) {
      // Boxes are wider than high: a step down counts for more than a step aside.
      least = Math.min(least, Math.max(Math.abs(x - a), Math.abs(y - b) * (BOX.stepX / BOX.stepY)));
    }
  });
  return least === Infinity ? 1 : least;
}

/** The end as it is wired, held as usual: the picture of its card. On a narrow sheet a long list has fewer columns. */
export function endScene(connector: ConnectorType, order: OnContacts, narrow = false): Scene {
  if (connector.face === 'plug-8') return plugScene(order);
  return connector.slots.length > 0 ? slotsScene(connector, order) : wiredScene(connector, order, narrow);
}
