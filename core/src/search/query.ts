import { FAULT_KINDS, INSTRUMENTS, type FaultKind, type InstrumentClass } from '../continuity/instruments.js';
import { LINK_STAGES, type LinkStage } from '../links/stage.js';

/** What a person looks for, as far as it was understood; what was not is looked for as words. */
export interface SearchQuery {
  /** Each has to stand somewhere in what is known of a link. */
  words: string[];
  stages: LinkStage[];
  scheme: 'T568A' | 'T568B' | null;
  /** People by name, and what they did. */
  people: { name: string; did: 'made' | 'tested' | 'handed-over' | 'anything' }[];
  /** Kinds of instrument that the verdict rests on; with `only`, on no others. */
  instruments: InstrumentClass[];
  only: boolean;
  faults: FaultKind[];
  /** Days on which something was done to it, the last one not among them: `2026-11-01`. */
  from: string | null;
  until: string | null;
}

/** A piece of what was typed, and what it was taken for. */
export interface Understood {
  text: string;
  as: string;
}

interface Asking {
  /** The day it is, for "last month". */
  today: string;
  /** Names of the crew. */
  people: readonly string[];
}

/** Words that ask and look for nothing. */
const SMALL = new Set(
  'a all and any are by did do every find for from have has i in is links link list me of on or show that the them those to was we were what where which who whose with'.split(
    ' ',
  ),
);
const DID: Readonly<Record<string, SearchQuery['people'][number]['did']>> = {
  made: 'made',
  terminated: 'made',
  crimped: 'made',
  punched: 'made',
  tested: 'tested',
  measured: 'tested',
  metered: 'tested',
};
const STAGE_WORDS: Readonly<Record<string, LinkStage>> = {
  'handed over': 'handed-over',
  proved: 'proved',
  passed: 'proved',
  wrong: 'failed',
  failed: 'failed',
  failing: 'failed',
  'to be tested': 'both-ends',
  untested: 'both-ends',
  'one end done': 'one-end',
  planned: 'planned',
};
const INSTRUMENT_WORDS: Readonly<Record<string, readonly InstrumentClass[]>> = {
  mapper: ['coded-mapper', 'coded-mapper-crosstalk'],
  'mapper with crosstalk': ['coded-mapper-crosstalk'],
  lamps: ['stepping-lamps', 'lamp-pairs', 'lamps-one-return'],
  'lamp tester': ['lamp-pairs', 'lamps-one-return', 'stepping-lamps'],
  reflectometer: ['pair-reflectometer'],
  beeper: ['beeper'],
  ohmmeter: ['ohmmeter'],
  eye: ['eye'],
  tone: ['tone-probe'],
  power: ['power-tester'],
  capacitance: ['capacitance-meter'],
  wiggle: ['wiggle'],
};
const FAULT_WORDS: Readonly<Record<string, FaultKind>> = {
  ...Object.fromEntries(Object.entries(FAULT_KINDS).map(([kind, name]) => [name, kind as FaultKind])),
  open: 'open',
  short: 'short',
  split: 'split',
  'split pairs': 'split',
  reversed: 'reversed',
  transposed: 'transposed',
  exchanged: 'swap',
  swapped: 'swap',
  'screen open': 'screen-open',
  intermittent: 'intermittent',
};
const MONTHS = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];
const DAY_MS = 86_400_000;

const dayAfter = (day: string, days = 1): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
/** A day that the calendar has: not 31 February. */
const isDay = (text: string): boolean => {
  const at = Date.parse(`${text}T00:00:00Z`);
  return !Number.isNaN(at) && new Date(at).toISOString().startsWith(text);
};
const monthOf = (year: number, month: number): [string, string] => {
  const first = (m: number): string => new Date(Date.UTC(year, m, 1)).toISOString().slice(0, 10);
  return [first(month), first(month + 1)];
};

/** Days that some words name, seen from today; null where they name none. Weeks begin on Monday (ISO 8601). */
export function daysNamed(text: string, today: string): [from: string, until: string] | null {
  const now = new Date(`${today}T00:00:00Z`);
  const [year, month] = [now.getUTCFullYear(), now.getUTCMonth()];
  const monday = dayAfter(today, -((now.getUTCDay() + 6) % 7));
  const words = text.toLowerCase();
  switch (words) {
    case 'today':
      return [today, dayAfter(today)];
    case 'yesterday':
      return [dayAfter(today, -1), today];
    case 'this week':
      return [monday, dayAfter(monday, 7)];
    case 'last week':
      return [dayAfter(monday, -7), monday];
    case 'this month':
      return monthOf(year, month);
    case 'last month':
      return monthOf(year, month - 1);
    case 'this year':
      return [`${year}-01-01`, `${year + 1}-01-01`];
    case 'last year':
      return [`${year - 1}-01-01`, `${year}-01-01`];
  }
  const day = /^(\d{4})-(\d{2})-(\d{2})$/.exec(words);
  if (day) return isDay(words) ? [words, dayAfter(words)] : null;
  const [, y, m] = /^(\d{4})-(\d{2})$/.exec(words) ?? [];
  if (y && m && Number(m) >= 1 && Number(m) <= 12) return monthOf(Number(y), Number(m) - 1);
  const [, name = '', named] = /^([a-z]+)(?: (\d{4}))?$/.exec(words) ?? [];
  const at = MONTHS.indexOf(name);
  if (at < 0) return null;
  // A month by its name alone is the last one of that name that has begun.
  return monthOf(named ? Number(named) : at > month ? year - 1 : year, at);
}

/**
 * What somebody looks for, from what was typed: people of the crew, days, stages, schemes, kinds of instrument and faults
 * are known by name; all else is looked for as it stands. What is written in quotes is never taken for anything.
 */
export function understandSearch(
  text: string,
  { today, people }: Asking,
): { query: SearchQuery; understood: Understood[] } {
  const query: SearchQuery = {
    words: [],
    stages: [],
    scheme: null,
    people: [],
    instruments: [],
    only: false,
    faults: [],
    from: null,
    until: null,
  };
  const understood: Understood[] = [];
  const tokens = [...text.matchAll(/"([^"]*)"|(\S+)/g)].map(([whole, quoted]) => ({
    text: quoted ?? whole,
    quoted: quoted !== undefined,
  }));
  const names = people.flatMap((name) => [
    { key: name.toLowerCase(), name },
    { key: name.split(/\s+/)[0]?.toLowerCase() ?? '', name },
  ]);
  let did: SearchQuery['people'][number]['did'] = 'anything';
  let edge: 'since' | 'before' | null = null;
  const take = (count: number, words: string): boolean => {
    const lower = words.toLowerCase().replace(/[?,.;]+$/, '');
    const say = (as: string): true => {
      understood.push({ text: words, as });
      return true;
    };
    if (lower === 'since' || lower === 'before') {
      edge = lower;
      return true;
    }
    const days = daysNamed(lower, today);
    if (days) {
      if (edge !== 'before') query.from = days[0];
      if (edge !== 'since') query.until = edge === 'before' ? days[0] : days[1];
      const said = edge === 'before' ? `before ${days[0]}` : edge ? `since ${days[0]}` : spanWords(days);
      edge = null;
      return say(said);
    }
    const person = names.find(({ key }) => key !== '' && key === lower);
    if (person) {
      query.people.push({ name: person.name, did });
      const how = did === 'anything' ? 'worked on' : did;
      did = 'anything';
      return say(`${how} by ${person.name}`);
    }
    const scheme = /^(?:t?568)([ab])$/.exec(lower)?.[1];
    if (scheme) {
      query.scheme = scheme === 'a' ? 'T568A' : 'T568B';
      return say(`wired to ${query.scheme}`);
    }
    const stage = STAGE_WORDS[lower];
    if (stage) {
      query.stages.push(
        stage,
        ...(lower === 'proved' || lower === 'passed' ? (['handed-over'] as const) : []),
      );
      return say(LINK_STAGES.find(({ id }) => id === stage)?.name ?? stage);
    }
    const classes = INSTRUMENT_WORDS[lower] ?? instrumentNamed(lower);
    if (classes) {
      query.instruments.push(...classes);
      return say(`rests on ${[...new Set(classes.map((id) => INSTRUMENTS[id].name))].join(' or ')}`);
    }
    if (lower === 'only' && query.instruments.length > 0) {
      query.only = true;
      return say('and on nothing else');
    }
    const fault = FAULT_WORDS[lower];
    if (fault) {
      query.faults.push(fault);
      return say(`had ${FAULT_KINDS[fault]}`);
    }
    if (count === 1 && DID[lower]) {
      did = DID[lower];
      return true;
    }
    return count === 1 && (SMALL.has(lower) || (lower === 'ends' && query.scheme !== null));
  };
  for (let at = 0; at < tokens.length;) {
    const one = tokens[at];
    if (!one) break;
    let taken = 0;
    // The longest name that is known counts: "split pairs" before "split".
    for (let count = Math.min(4, tokens.length - at); count > 0 && taken === 0; count--) {
      const some = tokens.slice(at, at + count);
      if (some.some(({ quoted }) => quoted)) continue;
      if (take(count, some.map((token) => token.text).join(' '))) taken = count;
    }
    if (taken === 0) {
      const word = one.quoted ? one.text : one.text.replace(/[?,;]+$/, '');
      if (word.trim() !== '') query.words.push(word.trim());
    }
    at += Math.max(1, taken);
  }
  return { query, understood };
}

const spanWords = ([from, until]: readonly [string, string]): string =>
  dayAfter(from) === until ? `on ${from}` : `from ${from} to ${dayAfter(until, -1)}`;

const instrumentNamed = (name: string): readonly InstrumentClass[] | null => {
  const found = Object.values(INSTRUMENTS).filter((one) => one.name.toLowerCase() === name);
  return found.length > 0 ? found.map(({ id }) => id) : null;
};
