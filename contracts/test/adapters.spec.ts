import fc from 'fast-check';
import { adapterFile, designOf, fieldErrors, fileOf, newAdapterPhoto, newBuild } from '@near-spoke/contracts';
import { anyDesign } from '../../core/test/adapters/any-design.js';

const throughFile = (file: unknown): unknown => JSON.parse(JSON.stringify(file));

describe('an adapter’s file', () => {
  it('reads back as the design that it was made of, whatever that is', () => {
    fc.assert(
      fc.property(anyDesign, (design) => {
        const parsed = adapterFile.safeParse(throughFile(fileOf(design)));
        if (!parsed.success) throw new Error(JSON.stringify(fieldErrors(parsed.error)));
        expect(designOf(parsed.data)).toEqual(design);
        // And written again, it is the same file.
        expect(throughFile(fileOf(designOf(parsed.data)))).toEqual(throughFile(fileOf(design)));
      }),
    );
  });

  it('is refused with the place of what is wrong, and never by a crash', () => {
    const junk = fc.oneof(fc.string(), fc.integer(), fc.constant(null), fc.constant([]), fc.object());
    fc.assert(
      fc.property(
        anyDesign,
        fc.constantFrom('name', 'ends', 'joins', 'wires', 'lengthM', 'spares', 'format'),
        junk,
        (design, field, value) => {
          const parsed = adapterFile.safeParse({
            ...(throughFile(fileOf(design)) as object),
            [field]: value,
          });
          if (parsed.success) return;
          const [first] = fieldErrors(parsed.error);
          expect(first?.path.startsWith(field)).withContext(JSON.stringify(first)).toBeTrue();
          expect(first?.message.length).toBeGreaterThan(5);
        },
      ),
    );
  });

  it('does not take text that hides what it says, a field that nobody knows, or too much of anything', () => {
    const good = {
      format: 'near-spoke/adapter',
      formatVersion: 1,
      name: 'lead',
      ends: ['A', 'B'].map((id) => ({
        id,
        name: id,
        connector: 'x',
        pins: [{ contact: '1', signal: 'X', kind: 'audio' }],
      })),
      joins: [],
    };
    expect(adapterFile.safeParse(good).success).toBeTrue();
    const wrong: [string, object][] = [
      ['name', { name: 'safe\u202Efdp.exe' }],
      ['body', { colour: 'red' }],
      ['lengthM', { lengthM: -1 }],
      ['ends', { ends: Array.from({ length: 9 }, (_, n) => ({ ...good.ends[0], id: 'ABCDEFGHI'[n] })) }],
      ['functionTest[0]', { functionTest: ['two\nlines'] }],
      ['joins[0].from', { joins: [{ from: 'A1', to: 'B 1' }] }],
    ];
    for (const [path, change] of wrong) {
      const parsed = adapterFile.safeParse({ ...good, ...change });
      expect(parsed.success).withContext(path).toBeFalse();
      if (!parsed.success) expect(fieldErrors(parsed.error)[0]?.path).toBe(path);
    }
  });
});

describe('what is sent of a built lead', () => {
  const id = '7f1f6a3e-0d6c-4f52-9c4c-6f0f6b1d2a11';

  it('has a mark on it, and answers that are yes, no or not done', () => {
    expect(
      newBuild.safeParse({ id, version: 1, name: 'one', beeped: [true, false, null] }).success,
    ).toBeTrue();
    expect(newBuild.safeParse({ id, version: 1, name: ' ', beeped: [] }).success).toBeFalse();
    expect(newBuild.safeParse({ id, version: 0, name: 'one', beeped: [] }).success).toBeFalse();
    expect(newBuild.safeParse({ id, version: 1, name: 'one', beeped: ['yes'] }).success).toBeFalse();
  });

  it('may be a photo of so many bytes, and no more', () => {
    const photo = (jpeg: string) => newAdapterPhoto.safeParse({ id, words: 'slot', jpeg });
    expect(photo('/9j/AAAA').success).toBeTrue();
    expect(photo('/9j/A').success).toBeFalse();
    const large = photo(`/9j/${'A'.repeat(900_000)}`);
    expect(large.success).toBeFalse();
    if (!large.success) expect(fieldErrors(large.error)[0]?.message).toContain('at most 650 kB');
  });
});
