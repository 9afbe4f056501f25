import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { eq, lt, sql } from 'drizzle-orm';
import type { CookieOptions, Request, Response } from 'express';
import type { Context, SignedIn } from '../context.js';
import { inCrew, outsideCrews } from '../db/crew.js';
import type { Sql } from '../db/open.js';
import { session } from '../db/schema.js';
import { Refusal } from '../problems.js';

const COOKIE = 'near_spoke_session';
const LIFETIME_MS = 14 * 24 * 60 * 60 * 1000;
export const FORGERY_HEADER = 'x-near-spoke-token';

export interface Session {
  crew: SignedIn;
  /** The crew that is worked in. */
  ofCrew: string;
  forgeryToken: string;
  tokenHash: string;
}

const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');

function cookieToken(request: Request): string | null {
  const cookies = (request.headers.cookie ?? '').split(';').map((part) => part.trim().split('='));
  return cookies.find(([name]) => name === COOKIE)?.[1] ?? null;
}

/** The session a request carries, if it is still good. */
export async function currentSession({ quick }: Context, request: Request): Promise<Session | null> {
  const token = cookieToken(request);
  return token === null ? null : sessionOf(quick, hashToken(token));
}

async function sessionOf(db: Sql, tokenHash: string): Promise<Session | null> {
  const { rows } = await outsideCrews(() =>
    db.execute<SignedIn & { forgery_token: string; of_crew: string } & Record<string, unknown>>(
      sql`SELECT * FROM door_session(${tokenHash})`,
    ),
  );
  const [row] = rows;
  if (!row) return null;
  const { id, name, role, forgery_token: forgeryToken, of_crew: ofCrew } = row;
  return { crew: { id, name, role }, ofCrew, forgeryToken, tokenHash };
}

/**
 * How the cookie is kept: over TLS for TLS alone. That a proxy speaks it is its own word; who makes it up gets a cookie that their
 * browser does not send.
 */
export const cookieOf = (request: Request): CookieOptions => ({
  httpOnly: true,
  sameSite: 'strict',
  path: '/',
  secure: request.secure || request.get('x-forwarded-proto') === 'https',
});

export const newForgeryToken = (): string => randomBytes(24).toString('base64url');

/** Begins a session in a crew and sets its cookie; that crew's out-of-date sessions are cleared on the way. */
export async function beginSession(
  { quick: db }: Context,
  { crewId, ofCrew }: { crewId: string; ofCrew: string },
  response: Response,
): Promise<Session> {
  const token = randomBytes(32).toString('base64url');
  const forgeryToken = newForgeryToken();
  const expiresAt = new Date(Date.now() + LIFETIME_MS);
  await inCrew(ofCrew, async () => {
    await db.delete(session).where(lt(session.expiresAt, new Date()));
    await db.insert(session).values({ tokenHash: hashToken(token), crewId, forgeryToken, expiresAt });
  });
  response.cookie(COOKIE, token, { ...cookieOf(response.req), maxAge: LIFETIME_MS });
  const begun = await sessionOf(db, hashToken(token));
  if (!begun) throw new Refusal(401, 'Sign in', 'Sign in first: you work in no crew any more.');
  return begun;
}

export async function endSession(context: Context, request: Request, response: Response): Promise<void> {
  const current = await currentSession(context, request);
  if (current)
    await inCrew(current.ofCrew, () =>
      context.quick.delete(session).where(eq(session.tokenHash, current.tokenHash)),
    );
  response.clearCookie(COOKIE, cookieOf(request));
}

const forged = (): Refusal =>
  new Refusal(
    403,
    'Refused',
    'This request did not come from the application’s own page. Reload the page and try again.',
  );

/** A browser says where a changing request comes from; another site's is refused. */
export function requireSameOrigin(request: Request): void {
  const site = request.headers['sec-fetch-site'];
  if (site !== undefined && site !== 'same-origin' && site !== 'none') throw forged();
  const { origin, host } = request.headers;
  if (origin === undefined) return;
  if (!URL.canParse(origin) || new URL(origin).host !== host) throw forged();
}

export function requireForgeryToken(request: Request, current: Session): void {
  const given = Buffer.from(request.get(FORGERY_HEADER) ?? '');
  const wanted = Buffer.from(current.forgeryToken);
  if (given.length !== wanted.length || !timingSafeEqual(given, wanted)) throw forged();
}
