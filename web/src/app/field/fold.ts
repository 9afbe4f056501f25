import {
  brokenTextIn,
  endpoints,
  fieldErrors,
  pathInWords,
  type CableWork,
  type Kit,
  type Link,
  type LinkDetail,
  type LinkNote,
  type Problem,
  type Termination,
  type TestRecord,
} from '@near-spoke/contracts';
import {
  CABLE_WORK_WORDS,
  checkReading,
  expectLink,
  standingWith,
  takenWith,
  verdictOf,
  type Diagnosis,
  type LinkExpectation,
} from '@near-spoke/core';
import type * as z from 'zod';

/** What is recorded of a link, and can wait on a device until it is sent. */
export type RecordId = 'addTermination' | 'addCableWork' | 'addTest' | 'addNote' | 'changeLink';

/** Something that is done while no server answers, and what is known on the device. */
export interface ToFold {
  id: RecordId;
  body: unknown;
  detail: LinkDetail;
  kit: Kit;
  /** The hub of the link's job. */
  hub: string;
  /** Who does it, and when by this device's clock. */
  by: string;
  at: string;
}
/** The link as it is with it, with what was done in words; or why it cannot be recorded. */
export type Folded = { detail: LinkDetail; words: string; judged: boolean } | { refused: Problem };

const refused = (
  title: string,
  detail: string,
  status: number,
  errors?: Problem['errors'],
): { refused: Problem } => ({
  refused: { type: 'about:blank', title, status, detail, ...(errors ? { errors } : {}) },
});

/** What a link is meant to be by its plan and the kit; null where the kit lacks a sheet. */
export function expectationOf({ link, scheme }: LinkDetail, kit: Kit): LinkExpectation | null {
  const cable = kit.cables.find(({ id }) => id === link.cableTypeId);
  const near = kit.connectors.find(({ id }) => id === link.near.connectorId);
  const far = kit.connectors.find(({ id }) => id === link.far.connectorId);
  if (!cable || !near || !far) return null;
  return expectLink({ cable, near, far, lengthM: link.lengthM, scheme, label: link.label });
}

/**
 * Adds to a link's record what is done while no server answers, as the server will: checked by the same shapes, judged by the
 * same core. The server's own answer takes its place later.
 */
export function fold({ id, body, detail, kit, hub, by, at }: ToFold): Folded {
  const broken = brokenTextIn(body);
  if (broken)
    return refused('Check the input', `${pathInWords(broken)}: half of a character is missing.`, 400);
  const parsed = endpoints[id].body.safeParse(body);
  if (!parsed.success) {
    const errors = fieldErrors(parsed.error as z.ZodError);
    const [first] = errors;
    return refused('Check the input', first ? `${first.path}: ${first.message}` : '', 400, errors);
  }
  if (detail.link.out)
    return refused(
      'Taken out of the job',
      `${detail.link.label} was taken out of the job: nothing is recorded of it. Bring it back first.`,
      409,
    );
  const expected = expectationOf(detail, kit);
  if (!expected)
    return refused(
      'Not on this device',
      `The kit on this device lacks a sheet of ${detail.link.label}: it can be recorded once the server answers.`,
      0,
    );
  const made = { turn: nextTurn(detail), by, at, deviceAt: at };
  switch (id) {
    case 'addTermination': {
      const sent = parsed.data as z.output<(typeof endpoints)['addTermination']['body']>;
      const { connector, cable } = kit.versions;
      const attempt = {
        ...sent,
        ...made,
        connectorVersion: sent.connectorVersion ?? connector[sent.connectorTypeId] ?? 1,
        cableVersion: sent.cableVersion ?? cable[detail.link.cableTypeId] ?? 1,
      } as Termination;
      const next = { ...detail, terminations: [...detail.terminations, attempt] };
      const words = `${sent.side} end ${sent.outcome === 'good' ? 'made' : 'spoiled'}`;
      return { detail: standing(next, expected), words, judged: next.tests.length > 0 };
    }
    case 'addCableWork': {
      const sent = parsed.data as z.output<(typeof endpoints)['addCableWork']['body']>;
      const next = { ...detail, cableWork: [...detail.cableWork, { ...sent, ...made } as CableWork] };
      return {
        detail: standing(next, expected),
        words: CABLE_WORK_WORDS[sent.kind],
        judged: next.tests.length > 0,
      };
    }
    case 'addTest': {
      const sent = parsed.data as z.output<(typeof endpoints)['addTest']['body']>;
      const problems = checkReading(expected, sent.reading);
      if (problems[0]) {
        const errors = problems.map((p) => ({ path: `reading.${pathInWords(p.path)}`, message: p.message }));
        const words = `${errors[0]?.path}: ${problems[0].message}`;
        return refused('This reading cannot be of this link', words, 422, errors);
      }
      const { unplugged: _, takenId, ...content } = sent;
      const source = takenId === undefined ? ('keyed' as const) : ('instrument' as const);
      const test = { ...content, ...made, source, simulated: false };
      const diagnosis = verdictOf(
        expected,
        { ...detail, tests: [...detail.tests, test] },
        detail.practice,
      ) as Diagnosis;
      const next = { ...detail, tests: [...detail.tests, { ...test, diagnosis } as TestRecord] };
      return {
        detail: { ...next, diagnosis, link: shown(next, diagnosis) },
        words: `read with ${takenWith(sent.reading)}`,
        judged: true,
      };
    }
    case 'addNote': {
      const sent = parsed.data as z.output<(typeof endpoints)['addNote']['body']>;
      const { jpeg, ...note } = sent;
      const kept = { ...note, ...made, photo: null } as LinkNote;
      return {
        detail: { ...detail, notes: [...detail.notes, kept] },
        words: jpeg === null ? 'a note' : 'a photo',
        judged: false,
      };
    }
    case 'changeLink': {
      const change = parsed.data as z.output<(typeof endpoints)['changeLink']['body']>;
      const next = { ...detail, link: changed(detail.link, change, hub, { by, at }) };
      return {
        detail: standing(next, expectationOf(next, kit) ?? expected),
        words: 'its plan changed',
        judged: next.tests.length > 0,
      };
    }
  }
}

const nextTurn = ({ terminations, cableWork, tests, handovers, reopenings, notes }: LinkDetail): number =>
  1 +
  Math.max(
    0,
    ...[...terminations, ...cableWork, ...tests, ...handovers, ...reopenings, ...notes].map(
      ({ turn }) => turn,
    ),
  );

/** Judges the record anew, and says how the link stands. */
function standing(detail: LinkDetail, expected: LinkExpectation): LinkDetail {
  const diagnosis = detail.tests.length > 0 ? verdictOf(expected, detail, detail.practice) : null;
  return { ...detail, diagnosis, link: shown(detail, diagnosis) };
}

function shown(detail: LinkDetail, diagnosis: Diagnosis | null): Link {
  const { stage, words, nextStep, nearDone, farDone } = standingWith(detail, diagnosis);
  const { link } = detail;
  return {
    ...link,
    stage,
    standing: words,
    nextStep,
    near: { ...link.near, done: nearDone },
    far: { ...link.far, done: farDone },
  };
}

function changed(
  link: Link,
  change: z.output<(typeof endpoints)['changeLink']['body']>,
  ownHub: string,
  { by, at }: { by: string; at: string },
): Link {
  const { hub, panel, port, room, outlet, nearConnectorId, farConnectorId } = change;
  const { label, cableTypeId, lengthM, route, carries } = change;
  const { otherHub, ...near } = link.near;
  const elsewhere = hub === undefined ? otherHub === true : hub !== '' && hub !== ownHub;
  return {
    ...link,
    label: label ?? link.label,
    cableTypeId: cableTypeId ?? link.cableTypeId,
    lengthM: lengthM ?? link.lengthM,
    route: route ?? link.route,
    carries: carries ?? link.carries,
    near: {
      ...near,
      hub: hub === undefined ? near.hub : elsewhere ? hub : ownHub,
      ...(elsewhere ? { otherHub: true } : {}),
      panel: panel ?? near.panel,
      port: port ?? near.port,
      connectorId: nearConnectorId ?? near.connectorId,
    },
    far: {
      ...link.far,
      room: room ?? link.far.room,
      outlet: outlet ?? link.far.outlet,
      connectorId: farConnectorId ?? link.far.connectorId,
    },
    version: change.version + 1,
    updatedAt: at,
    updatedBy: by,
  };
}
