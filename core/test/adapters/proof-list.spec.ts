import { BadNets, proofList, wouldBeep, wrongTouches, type Net } from '@near-spoke/core';
import { sound as built, wrongLeads } from './wrong-leads.js';

/** Straight nets between two ends, the last few contacts of each end dead. */
function straight(contacts: number, dead = 0): Net[] {
  const joined = Array.from({ length: contacts - dead }, (_, n) => ({
    name: `n${n + 1}`,
    points: [
      { end: 'A', contact: String(n + 1) },
      { end: 'B', contact: String(n + 1) },
    ],
  }));
  const alone = Array.from({ length: dead }, (_, n) => String(contacts - dead + n + 1)).flatMap((contact) =>
    ['A', 'B'].map((end) => ({ name: `dead ${end}${contact}`, points: [{ end, contact }] })),
  );
  return [...joined, ...alone];
}

/** A bridge, a branch and a dead contact besides plain joins. */
const mixed: Net[] = [
  { name: 'GND', points: ['A 1', 'A 2', 'B 5', 'C 1'].map(at) },
  { name: 'TXD', points: ['A 3', 'B 2'].map(at) },
  { name: 'RXD', points: ['A 4', 'B 3'].map(at) },
  { name: 'RTS-CTS', points: ['B 7', 'B 8'].map(at) },
  { name: 'dead', points: ['A 5'].map(at) },
];
function at(words: string): { end: string; contact: string } {
  const [end = '', contact = ''] = words.split(' ');
  return { end, contact };
}

describe('a proof list', () => {
  it('lets a sound lead pass, every touch as it should be', () => {
    for (const nets of [straight(4), straight(9, 3), mixed])
      expect(wrongTouches(proofList(nets), built(nets))).toEqual([]);
  });

  it('shows every single open, short and exchange, exhaustively up to ten contacts', () => {
    let tried = 0;
    for (let contacts = 1; contacts <= 10; contacts++) {
      for (let dead = 0; dead < contacts; dead++) {
        const nets = straight(contacts, dead);
        const list = proofList(nets);
        for (const { what, real } of wrongLeads(nets)) {
          if (wrongTouches(list, real).length === 0)
            fail(`${contacts} contacts, ${dead} dead: ${what} is not seen`);
          tried++;
        }
      }
    }
    expect(tried).toBe(7370);
  });

  it('shows them on a lead with branches, bridges and dead contacts as well', () => {
    const list = proofList(mixed);
    for (const { what, real } of wrongLeads(mixed))
      expect(wrongTouches(list, real).length).withContext(what).toBeGreaterThan(0);
  });

  it('is as short as can be: a beep for each join, and silent touches as a number has bits', () => {
    const list = proofList(straight(9, 3));
    expect(list.filter(({ should }) => should === 'beep').length).toBe(6);
    // Six nets and six dead contacts: twelve, four bits.
    expect(list.filter(({ should }) => should === 'stay silent').length).toBe(4);
    expect(list.findIndex(({ should }) => should === 'beep')).toBe(4);
    expect(proofList(straight(1)).length).toBe(1);
  });

  it('takes no touch too many: without any one of them something is not seen', () => {
    const nets = straight(5, 1);
    const list = proofList(nets);
    for (const left of list) {
      const fewer = list.filter((touch) => touch !== left);
      const missed = [...wrongLeads(nets)].filter(({ real }) => wrongTouches(fewer, real).length === 0);
      expect(missed.length).withContext(JSON.stringify(left)).toBeGreaterThan(0);
    }
  });

  it('beeps where the two leads touch one lump of metal', () => {
    const [touch] = proofList(straight(2));
    expect(touch && wouldBeep(touch, built(straight(2)))).toBeFalse();
    expect(
      touch && wouldBeep(touch, new Map([...built(straight(2)).keys()].map((key) => [key, 1]))),
    ).toBeTrue();
  });

  it('refuses a contact in two nets, and a net without any', () => {
    const twice = [
      { name: 'GND', points: [at('A 1')] },
      { name: 'TXD', points: [at('A 1'), at('B 2')] },
    ];
    expect(() => proofList(twice)).toThrowError(BadNets, 'Contact 1 of A is in GND and in TXD.');
    expect(() => proofList([{ name: 'GND', points: [] }])).toThrowError(BadNets, /no contact/);
  });
});
