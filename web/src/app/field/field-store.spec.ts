import { FieldStore } from './field-store';

describe('What a device keeps', () => {
  let stores: FieldStore[] = [];
  let name = '';
  const open = (): FieldStore => {
    const store = new FieldStore(name);
    stores.push(store);
    return store;
  };
  beforeEach(() => {
    name = `field store ${crypto.randomUUID()}`;
    stores = [];
  });
  afterEach(async () => {
    for (const store of stores) await store.close();
    indexedDB.deleteDatabase(name);
  });

  it('is revised by several at once, in two pages of one device, without losing what any of them made of it', async () => {
    const pages = [open(), open()];
    const counts = Object.fromEntries(Array.from({ length: 20 }, (_, n) => [`L-${n}`, 0]));
    await pages[0]?.change('Tobi', { keep: [{ address: '/list', answer: counts }] });
    await Promise.all(
      Object.keys(counts).flatMap((label) =>
        pages.map((page) =>
          page.change('Tobi', {
            revise: [
              {
                address: '/list',
                by: (list) => {
                  const known = list as Record<string, number>;
                  return { ...known, [label]: (known[label] ?? 0) + 1 };
                },
              },
            ],
          }),
        ),
      ),
    );
    const kept = (await open().read('Tobi', '/list'))?.answer as Record<string, number>;
    expect(Object.values(kept)).toEqual(Array.from({ length: 20 }, () => 2));
  });

  it('is made of nothing where nothing was kept', async () => {
    const page = open();
    await page.change('Tobi', { revise: [{ address: '/list', by: () => 'something' }] });
    expect(await page.read('Tobi', '/list')).toBeUndefined();
  });
});
