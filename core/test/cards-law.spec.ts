import {
  buildCard,
  CABLE_TYPES,
  checkFit,
  CONNECTOR_TYPES,
  COAX_CUTTERS,
  followsScheme,
  layOut,
  SCREEN_CONTACT,
  TOOL_TYPES,
  type CableType,
  type ConnectorType,
  type WorkCard,
} from '../src/index.js';

interface Pairing {
  cable: CableType;
  connector: ConnectorType;
  card: WorkCard;
  named: string;
}
/** Every cable with every connector that may be made on it. */
const pairings: Pairing[] = CABLE_TYPES.flatMap((cable) =>
  CONNECTOR_TYPES.filter((connector) =>
    checkFit(cable, connector).every(({ verdict }) => verdict !== 'does not fit'),
  ).map((connector) => ({
    cable,
    connector,
    card: buildCard({ cable, connector, tools: TOOL_TYPES }),
    named: `${cable.id} on ${connector.id}`,
  })),
);
const wordsOf = ({ steps, before }: WorkCard): string =>
  [
    ...before,
    ...steps.flatMap((s) => [s.title, s.how, s.reason, s.accept, s.reject, s.caution ?? '', ...s.wrongTurns]),
  ].join(' ');

/** A noun of the trade, and what cable or connector must have for a card to speak of it. */
const NOUNS: readonly [RegExp, (p: Pairing) => boolean][] = [
  [
    /\blatch (down|up)\b/,
    ({ connector }) => connector.group === 'modular plug' && connector.id !== 'plug-british',
  ],
  [/\bthe bar\b/, ({ connector }) => connector.group === 'modular plug' || connector.group === 'ribbon'],
  [/T568/, ({ connector }) => followsScheme(connector)],
  [/\bferrule\b/, ({ connector }) => connector.parts.some(({ kind }) => kind === 'ferrule')],
  [/\bboot\b/, ({ connector }) => connector.parts.some(({ kind }) => kind === 'boot')],
  [/\bpull cord\b/, ({ cable }) => cable.fillers.includes('pull cord')],
  [/\bseparator\b/, ({ cable }) => cable.fillers.includes('separator')],
  [/\bgel\b/i, ({ cable, connector }) => cable.fillers.includes('gel') || connector.recipe === 'splice-gel'],
  [/\bfoil\b/i, ({ cable }) => cable.screens.includes('foil') || cable.fillers.includes('pair foil')],
  [/\bbraid\b/, ({ cable }) => cable.screens.includes('braid')],
  [/\bdrain\b/, ({ cable }) => cable.drain],
  [/\bdielectric\b/, ({ cable }) => cable.family === 'coax'],
  [/clear body/, ({ connector }) => !connector.screened],
  [/master socket/, ({ connector }) => connector.assignment === 'british'],
  [/demarcation box/, ({ connector }) => connector.assignment === 'modular-6'],
  [/bridging clip/i, ({ connector }) => connector.id === 'block-66'],
  [/connecting block/, ({ connector }) => connector.id === 'block-110'],
  [/binder group/, ({ cable }) => cable.pairs > 25],
];

describe('Every card that fits', () => {
  it('is one of many', () => expect(pairings.length).toBeGreaterThan(80));

  it('speaks of nothing that its cable or connector does not have', () => {
    for (const pairing of pairings)
      for (const [noun, has] of NOUNS)
        if (!has(pairing)) expect(wordsOf(pairing.card)).withContext(pairing.named).not.toMatch(noun);
  });

  it('says before step 1 what has to be off, and of a cable from outdoors what belongs to licensed hands', () => {
    for (const { cable, connector, card, named } of pairings) {
      const gated = card.before.length > 0 || card.steps[0]?.id === 'dead' || cable.use === 'telephone';
      expect(gated).withContext(named).toBeTrue();
      if (cable.outdoor) expect(card.before.join()).withContext(named).toContain('licensed');
      if (connector.group === 'splice') expect(card.before.join()).withContext(named).toContain('rated');
      // What must be off is asked before anything is done: nothing of it comes in the middle.
      expect(card.steps.findLastIndex(({ id }) => id === 'dead'))
        .withContext(named)
        .toBeLessThan(1);
    }
  });

  it('uses every part it threads, and touches every contact that stands under CONTACTS', () => {
    for (const { cable, connector, card, named } of pairings) {
      const { steps, rings } = layOut({ cable, connector });
      const words = wordsOf(card);
      for (const { part } of rings) {
        const handled = steps.some((s) => s.brings?.part === part.kind || s.works === part.kind);
        const noun = part.kind === 'hood' ? /hood|shell|housing/ : new RegExp(part.kind.replace('-', '[ -]'));
        expect(handled || noun.test(words.replace(card.steps[0]?.how ?? '', '')))
          .withContext(`${named}: ${part.name}`)
          .toBeTrue();
      }
      if (card.order.some(({ conductor }) => conductor === 'SCREEN'))
        expect(words)
          .withContext(named)
          .toMatch(/drain|screen|foil|braid/i);
    }
  });

  it('lays something on every contact, or says that it stays free', () => {
    for (const { connector, card, named } of pairings) {
      const laid = new Set(card.order.map(({ contact }) => contact));
      // A socket is met by its two legs, whatever its slots are called.
      const numbered = connector.contacts.filter(
        (contact) => !['a', 'b', 'S', 'SCREEN', SCREEN_CONTACT].includes(contact),
      );
      if (connector.group === 'splice' || numbered.every((contact) => laid.has(contact))) continue;
      expect(card.fit.map(({ words }) => words).join())
        .withContext(named)
        .toMatch(/stays? free|Screen on 1/);
    }
  });

  it('carries a tolerance that its lengths can bear', () => {
    for (const { card, connector, named } of pairings) {
      expect(card.strip.toleranceMm).withContext(named).toBeGreaterThan(0);
      for (const { fromEndMm } of card.strip.cuts)
        expect(card.strip.toleranceMm)
          .withContext(named)
          .toBeLessThan(fromEndMm / 2);
      const strip = card.steps.find(({ id }) => id === 'strip');
      if (strip && connector.strip.jacketMm > 0) expect(strip.title).withContext(named).toContain('±');
    }
  });

  it('cuts coax with a cutter that is ground for its jacket and its dielectric', () => {
    for (const { cable, connector, named } of pairings) {
      const size = connector.tools.find(({ kind }) => kind === 'coax stripper')?.size;
      if (!size) continue;
      const cutter = COAX_CUTTERS[size];
      const within = (mm: number | null, span?: { min: number; max: number }): boolean =>
        mm !== null && span !== undefined && mm >= span.min && mm <= span.max;
      expect(within(cable.jacketMm, cutter?.jacketMm)).withContext(`${named}: jacket, ${size}`).toBeTrue();
      expect(within(cable.dielectricMm, cutter?.dielectricMm))
        .withContext(`${named}: dielectric, ${size}`)
        .toBeTrue();
    }
  });
});
