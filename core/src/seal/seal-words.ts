import type { SealChange } from './changes.js';
import type { RecordKind } from './seal.js';

const KINDS: Readonly<Record<RecordKind, string>> = {
  termination: 'a termination',
  'cable-work': 'work on the cable',
  test: 'a reading',
  handover: 'a handover',
  reopening: 'a reopening',
  note: 'a note',
};

const FIELDS: Readonly<Record<string, string>> = {
  nearConnectorId: 'near end',
  farConnectorId: 'far end',
  cableTypeId: 'cable',
  lengthM: 'length in metres',
  carries: 'what it carries',
};

const shown = (value: unknown): string =>
  value === null || value === undefined
    ? 'nothing'
    : typeof value === 'string' || typeof value === 'number'
      ? String(value)
      : JSON.stringify(value);

/** A change since the seal, as a sentence. */
export function sealChangeWords(change: SealChange): string {
  switch (change.code) {
    case 'job-changed':
      return `The job’s ${change.field} was ${shown(change.from)} and is ${shown(change.to)}.`;
    case 'link-gone':
      return `${change.label} is no longer there.`;
    case 'plan-changed':
      return `${change.label}: ${FIELDS[change.field] ?? change.field} was ${shown(change.from)} and is ${shown(change.to)}.`;
    case 'record-added':
      return `${change.label}: ${KINDS[change.kind]} was added by ${change.by}, ${change.at.slice(0, 16).replace('T', ' ')} UTC.`;
    case 'record-altered':
      return `${change.label}: ${KINDS[change.kind]} no longer says what was sealed (record ${change.id}). Records are never rewritten: somebody reached past the application.`;
    case 'record-missing':
      return `${change.label}: ${KINDS[change.kind]} that was sealed is no longer there (record ${change.id}).`;
  }
}
