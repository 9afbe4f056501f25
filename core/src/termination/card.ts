import type { CableType } from '../cabling/cable-types.js';
import type { ConductorId } from '../cabling/conductors.js';
import { EIGHT_CONTACTS, SCHEMES, type ContactId, type SchemeId } from '../cabling/schemes.js';
import { slotRows, type ConnectorType } from '../connectors/connector-types.js';
import { RECIPES, type CardFigures, type StepPicture } from './recipes.js';
import { judgePart, type PartVerdict } from './thread-first.js';

/** One step of a work card. */
export interface CardStep {
  id: string;
  title: string;
  how: string;
  reason: string;
  /** What to look at, and what is good. */
  accept: string;
  caution: string | null;
  wrongTurns: readonly string[];
  /** After this step the connector is spent if something was wrong. */
  noWayBack: boolean;
  picture: StepPicture;
}

/** Lengths measured from the cable's end. */
export interface StripPlan {
  jacketMm: number;
  /** Conductor left beyond the jacket's edge when trimmed; null where the connector trims it. */
  trimMm: number | null;
  /** Most untwist allowed at the contact (ANSI/TIA-568: 13 mm). */
  untwistMm: number;
  source: 'typical' | 'sheet';
}

/** Everything one pair of hands needs for one cable end. */
export interface WorkCard {
  title: string;
  connectorId: string;
  scheme: SchemeId;
  tools: readonly string[];
  parts: readonly string[];
  threaded: readonly PartVerdict[];
  strip: StripPlan;
  /** Conductor on each contact, in contact order. */
  order: readonly { contact: ContactId; conductor: ConductorId }[];
  slots: { left: readonly SlotLine[]; right: readonly SlotLine[] } | null;
  steps: readonly CardStep[];
  minutes: number;
}

export interface SlotLine {
  contact: ContactId;
  conductor: ConductorId;
}

/** Untwist at a termination, at most (ANSI/TIA-568). */
const MAX_UNTWIST_MM = 13;

/**
 * Builds the work card for one 8-contact end.
 * @throws RangeError when the connector has no recipe yet (anything but 8-contact plugs and IDC jacks).
 */
export function buildCard(input: { cable: CableType; connector: ConnectorType; scheme: SchemeId }): WorkCard {
  const { cable, connector, scheme } = input;
  const recipe = RECIPES[connector.style];
  if (!recipe || cable.family !== 'balanced') {
    throw new RangeError(
      `There is no work card for ${connector.name} on ${cable.name} yet. Follow the sheet in the bag and record the end.`,
    );
  }
  const threaded = connector.parts.map((part) => judgePart(part, cable, connector));
  const figures: CardFigures = { cable, connector, scheme: SCHEMES[scheme], threaded };
  const line = (contact: ContactId): SlotLine => ({
    contact,
    conductor: SCHEMES[scheme].order[Number(contact) - 1] as ConductorId,
  });
  const rows = connector.slots.length > 0 ? slotRows(connector) : null;
  return {
    title: connector.name,
    connectorId: connector.id,
    scheme,
    tools: recipe.tools(figures),
    parts: [connector.name, ...connector.parts.map((part) => part.name)],
    threaded,
    strip: {
      jacketMm: connector.stripMm,
      trimMm: connector.trimMm,
      untwistMm: MAX_UNTWIST_MM,
      source: connector.source,
    },
    order: EIGHT_CONTACTS.map(line),
    slots: rows && {
      left: rows.left.map((s) => line(s.contact)),
      right: rows.right.map((s) => line(s.contact)),
    },
    steps: recipe.steps
      .filter((step) => step.when?.(figures) ?? true)
      .map((step) => ({
        id: step.id,
        title: step.title(figures),
        how: step.how(figures),
        reason: step.reason,
        accept: step.accept,
        caution: step.caution ?? null,
        wrongTurns: step.wrongTurns ?? [],
        noWayBack: step.noWayBack ?? false,
        picture: step.picture,
      })),
    minutes: connector.minutes,
  };
}
