import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { MIGRATIONS } from './harness.js';

/** Before it, one process served a database, and ended before the next version began. */
const FIRST = 34;
/** What a process of the version before would fall over while it still serves. */
const TAKES_AWAY = [
  /\bDROP\s+(TABLE|COLUMN|TYPE)\b/i,
  /\bRENAME\b/i,
  /\bSET\s+NOT\s+NULL\b/i,
  /\bSET\s+DATA\s+TYPE\b/i,
  /\bADD\s+COLUMN\b(?![^;]*\bDEFAULT\b)[^;]*\bNOT\s+NULL\b/i,
];
/** Says that no version in use needs any more what goes. */
const SECOND_STEP = /^-- second step: \S/;

const breaks = (sql: string): boolean => !SECOND_STEP.test(sql) && TAKES_AWAY.some((one) => one.test(sql));

describe('a change of the schema', () => {
  it('only adds, so that processes of the version before go on meanwhile; what goes is said to be a second step', () => {
    const late = readdirSync(MIGRATIONS).filter(
      (name) => name.endsWith('.sql') && Number(name.slice(0, 4)) >= FIRST,
    );
    expect(late.length).toBeGreaterThan(0);
    for (const name of late)
      expect(breaks(readFileSync(join(MIGRATIONS, name), 'utf8')))
        .withContext(name)
        .toBeFalse();
  });

  it('that takes away is seen', () => {
    for (const sql of [
      'ALTER TABLE "link" DROP COLUMN "hub";',
      'ALTER TABLE "link" RENAME COLUMN "hub" TO "closet";',
      'ALTER TABLE "link" ALTER COLUMN "hub" SET NOT NULL;',
      'ALTER TABLE "link" ADD COLUMN "hub" text NOT NULL;',
    ]) {
      expect(breaks(sql)).withContext(sql).toBeTrue();
      expect(breaks(`-- second step: nothing since 0.3 reads it\n${sql}`)).toBeFalse();
    }
    expect(breaks(`ALTER TABLE "link" ADD COLUMN "hub" text DEFAULT '' NOT NULL;`)).toBeFalse();
  });
});
