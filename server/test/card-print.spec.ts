import {
  buildCard,
  CABLE_TYPES,
  checkFit,
  conductorCode,
  CONNECTOR_TYPES,
  followsScheme,
  TOOL_TYPES,
} from '@near-spoke/core';
import { cardDocument } from '../src/cards/page.js';

const head = { link: 'P1-01', place: 'here', made: 'today' };

/** Every run of words that stands in a document, whatever is round it. */
function wordsOf(part: unknown): string[] {
  if (typeof part === 'string') return [part];
  if (Array.isArray(part)) return part.flatMap(wordsOf);
  if (typeof part === 'object' && part !== null) return Object.values(part).flatMap(wordsOf);
  return [];
}

describe('A printed card', () => {
  it('says all that the screen says, for every cable on every connector that fits it, and no scheme where there is none', () => {
    let cards = 0;
    for (const cable of CABLE_TYPES)
      for (const connector of CONNECTOR_TYPES) {
        if (checkFit(cable, connector).some(({ verdict }) => verdict === 'does not fit')) continue;
        const card = buildCard({ cable, connector, tools: TOOL_TYPES });
        const printed = wordsOf(cardDocument(card, connector, head, 'metric'));
        const all = printed.join('\n');
        const context = `${cable.id} on ${connector.id}`;
        for (const [n, step] of card.steps.entries())
          for (const words of [
            `${n + 1}. ${step.title}`,
            step.how,
            step.accept,
            step.reject,
            step.caution ?? '',
          ])
            expect(all.includes(words)).withContext(`${context}: ${words}`).toBeTrue();
        for (const words of [...card.before, ...card.tools.map((tool) => tool.words), card.parts.join(', ')])
          expect(all.includes(words)).withContext(`${context}: ${words}`).toBeTrue();
        const drawn = printed.find((words) => words.startsWith('<svg')) ?? '';
        for (const { contact, conductor } of card.order)
          expect(drawn.includes(`>${contact}<`) && drawn.includes(`>${conductorCode(conductor)}<`))
            .withContext(`${context}: ${contact}`)
            .toBeTrue();
        // Slots lie as on the screen: those of the card, none left out.
        for (const { contact } of [...(card.slots?.left ?? []), ...(card.slots?.right ?? [])])
          expect(drawn.includes(`>${contact}<`))
            .withContext(`${context}: slot ${contact}`)
            .toBeTrue();
        if (!followsScheme(connector)) expect(all).withContext(context).not.toContain('T568');
        cards++;
      }
    expect(cards).toBeGreaterThan(150);
  });
});
