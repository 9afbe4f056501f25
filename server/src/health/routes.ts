import { openApiDocument } from '@near-spoke/contracts/openapi';
import { sql } from 'drizzle-orm';
import type { Handlers } from '../bind.js';
import type { Context } from '../context.js';

const ANSWER_WITHIN_MS = 2000;

async function databaseAnswers({ quick: db }: Context): Promise<boolean> {
  const late = new Promise<false>((resolve) => setTimeout(resolve, ANSWER_WITHIN_MS, false).unref());
  const answer = db.execute(sql`SELECT 1 FROM setting LIMIT 1`).then(
    () => true,
    () => false,
  );
  return Promise.race([answer, late]);
}

export function healthHandlers(context: Context): Pick<Handlers, 'health' | 'openapi'> {
  const document = openApiDocument(context.version);
  return {
    health: async ({ response }) => {
      const ok = await databaseAnswers(context);
      if (!ok) response.status(503);
      return {
        status: ok ? 'ok' : 'unavailable',
        version: context.version,
        database: ok ? 'ok' : 'unreachable',
      };
    },
    openapi: async () => document,
  };
}
