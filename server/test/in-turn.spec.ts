import { LinkTurns } from '../src/links/in-turn.js';
import { Refusal } from '../src/problems.js';

/** Work that ends when it is told to. */
function held(): { work: () => Promise<string>; began: () => boolean; end: (error?: Error) => void } {
  let begun = false;
  let end: (error?: Error) => void = () => undefined;
  const over = new Promise<string>((resolve, reject) => {
    end = (error) => (error ? reject(error) : resolve('done'));
  });
  return {
    work: () => {
      begun = true;
      return over;
    },
    began: () => begun,
    end,
  };
}
const turn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

describe('Adding to the records of links', () => {
  it('goes on one after another on a link, whatever becomes of the one before, and side by side on others', async () => {
    const turns = new LinkTurns(3);
    const [first, second, other] = [held(), held(), held()];
    const answers = [
      turns.do('a', first.work).catch((error: Error) => error.message),
      turns.do('a', second.work),
      turns.do('b', other.work),
    ];
    await turn();
    expect([first.began(), second.began(), other.began()]).toEqual([true, false, true]);
    first.end(new Error('not kept'));
    await turn();
    expect(second.began()).toBeTrue();
    second.end();
    other.end();
    expect(await Promise.all(answers)).toEqual(['not kept', 'done', 'done']);
  });

  it('goes on as much as is allowed at once, in the order in which it was asked for', async () => {
    const turns = new LinkTurns(2);
    const all = ['a', 'b', 'c', 'd'].map((linkId) => ({ linkId, ...held() }));
    const answers = all.map(({ linkId, work }) => turns.do(linkId, work));
    for (let done = 0; done < all.length; done++) {
      await turn();
      expect(all.filter(({ began }) => began()).length).toBe(Math.min(all.length, done + 2));
      all[done]?.end();
    }
    expect((await Promise.all(answers)).length).toBe(4);
  });

  it('is refused where too many wait for one link, and begun again once they are through', async () => {
    const turns = new LinkTurns(2);
    const one = held();
    const waiting: Promise<string>[] = [];
    let refused: unknown = null;
    for (let n = 0; refused === null && n < 1000; n++) {
      const asked = turns.do('a', one.work);
      const what = await Promise.race([asked.catch((error: unknown) => error), turn()]);
      if (what instanceof Refusal) refused = what;
      else waiting.push(asked);
    }
    expect((refused as Refusal).message).toContain('Many people add to records');
    expect(waiting.length).toBeGreaterThan(10);
    // Another link is recorded on meanwhile.
    expect(await turns.do('b', () => Promise.resolve('kept'))).toBe('kept');
    one.end();
    await Promise.all(waiting);
    expect(await turns.do('a', () => Promise.resolve('kept'))).toBe('kept');
  });
});
