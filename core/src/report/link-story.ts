import { takenWith } from '../continuity/instruments.js';
import { CABLE_WORK_WORDS } from '../links/standing.js';
import { formatCableLength } from '../quantities/length.js';
import { comesFrom } from './link-row.js';
import type { Names } from './names.js';
import type { ReportLink } from './report-data.js';

/** Something that is on record of a link. */
export interface Happened {
  turn: number;
  at: string;
  /** When it was done by the clock of the device it waited on; left out where it was sent at once. */
  deviceAt?: string | undefined;
  by: string;
  what: string;
  /** What was said with it; empty for nothing. */
  note: string;
}

type Told = Pick<
  ReportLink,
  'units' | 'terminations' | 'cableWork' | 'tests' | 'handovers' | 'reopenings' | 'notes'
>;

/** All that is on record of a link, in its order, in words. */
export function linkStory(detail: Told, { connector }: Pick<Names, 'connector'>): Happened[] {
  const retested = new Set(detail.tests.map(({ corrects }) => corrects));
  const undone = new Set(detail.terminations.map(({ corrects }) => corrects));
  const head = ({ turn, at, deviceAt, by }: Pick<Happened, 'turn' | 'at' | 'deviceAt' | 'by'>) => ({
    turn,
    at,
    ...(deviceAt === undefined ? {} : { deviceAt }),
    by,
  });
  const said = (...words: readonly string[]): string => words.filter(Boolean).join('; ');
  return [
    ...detail.terminations.map((t) => ({
      ...head(t),
      what: `${t.side} end ${t.outcome === 'good' ? 'terminated' : 'spoiled'}: ${connector(t.connectorTypeId)}${t.connectorsSpoiled > 0 ? `, ${t.connectorsSpoiled} spoiled` : ''}${undone.has(t.id) ? ' (corrected since)' : ''}`,
      note: said(
        t.reason,
        t.lot && `lot ${t.lot}`,
        t.tool ? `made with ${t.tool}` : '',
        t.stopgap && `stopgap: ${t.stopgap}`,
      ),
    })),
    ...detail.cableWork.map((w) => ({
      ...head(w),
      what: `${CABLE_WORK_WORDS[w.kind]}${w.atM === null ? '' : ` at ${formatCableLength(w.atM, detail.units)}`}`,
      note: w.note,
    })),
    ...detail.tests.map((t) => ({
      ...head(t),
      what: `${takenWith(t.reading)}${comesFrom(t)}: ${t.diagnosis.headline}${retested.has(t.id) ? ' (corrected since)' : ''}`,
      note: said(t.misread && `earlier reading misread: ${t.misread}`, t.note),
    })),
    ...detail.handovers.map((h) => ({ ...head(h), what: 'handed over', note: '' })),
    ...(detail.notes ?? []).map((n) => ({
      ...head(n),
      what: `${n.photo ? 'photo' : 'note'}${n.end ? ` of the ${n.end} end` : ''}`,
      note: n.words,
    })),
    ...detail.reopenings.map((r) => ({ ...head(r), what: 'reopened', note: r.reason })),
  ].sort((a, b) => a.turn - b.turn);
}
