import type { Job, Link, LinkDetail } from '@near-spoke/contracts';
import {
  CABLE_TYPES,
  CONNECTOR_TYPES,
  expectLink,
  TYPICAL_PRACTICE,
  type LinkExpectation,
} from '@near-spoke/core';

/** A job for tests, with some of it changed. */
export function someJob(change: Partial<Job> = {}): Job {
  return {
    id: 'job',
    site: 'Pier',
    title: 'Hall',
    hub: 'CR-1',
    scheme: 'T568B',
    units: 'metric',
    stretches: [],
    version: 1,
    updatedAt: '2026-11-02T08:00:00.000Z',
    updatedBy: 'Ines',
    stages: { planned: 0, 'one-end': 0, 'both-ends': 0, failed: 0, proved: 0, 'handed-over': 0 },
    ...change,
  };
}

/** A link for tests, with some of it changed. */
export function someLink(change: Partial<Link> = {}): Link {
  return {
    id: 'link',
    jobId: 'job',
    label: 'P1-05',
    position: 5,
    near: { hub: 'CR-1', panel: 'P1', port: '05', connectorId: 'jack-punched', done: true },
    far: { room: 'Hall', outlet: 'departures 1', connectorId: 'plug-closed', done: true },
    cableTypeId: 'cat6-u',
    lengthM: 31.4,
    route: [
      { name: 'shelf', lengthM: 1.4 },
      { name: 'tray over hall', lengthM: 30 },
    ],
    carries: {},
    stage: 'both-ends',
    standing: 'to be tested',
    nextStep: 'Prove the map',
    version: 1,
    updatedAt: '2026-11-02T08:00:00.000Z',
    updatedBy: 'Tobi',
    ...change,
  };
}

const termination = (side: 'near' | 'far'): LinkDetail['terminations'][number] => ({
  id: side,
  turn: side === 'near' ? 1 : 2,
  side,
  at: '2026-11-02T08:00:00.000Z',
  by: 'Tobi',
  connectorTypeId: side === 'near' ? 'jack-punched' : 'plug-closed',
  outcome: 'good',
  connectorsSpoiled: 0,
  reason: '',
  lot: '',
  stopgap: '',
  connectorVersion: 1,
  cableVersion: 1,
  corrects: null,
});

/** A link with both ends terminated and no test yet. */
export function someDetail(change: Partial<LinkDetail> = {}): LinkDetail {
  return {
    link: someLink(),
    scheme: 'T568B',
    units: 'metric',
    terminations: [termination('near'), termination('far')],
    cableWork: [],
    tests: [],
    handovers: [],
    reopenings: [],
    notes: [],
    diagnosis: null,
    practice: TYPICAL_PRACTICE,
    ...change,
  };
}

export function someExpectation(): LinkExpectation {
  const find = <T extends { id: string }>(list: readonly T[], id: string): T =>
    list.find((type) => type.id === id) as T;
  return expectLink({
    cable: find(CABLE_TYPES, 'cat6-u'),
    near: find(CONNECTOR_TYPES, 'jack-punched'),
    far: find(CONNECTOR_TYPES, 'plug-closed'),
    lengthM: 31.4,
    scheme: 'T568B',
  });
}
