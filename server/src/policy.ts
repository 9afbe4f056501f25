import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';

/** The nonce that stands in the built page: that of the copy a device keeps for when there is no network. */
export function keptNonceOf(page: string): string {
  const nonce = /ngCspNonce="([^"]+)"/i.exec(page)?.[1];
  if (nonce === undefined) throw new Error('the built page has no place for a nonce');
  return nonce;
}

/** The nonce of a response: what its page may bring of its own is known by it. */
export const nonceOf = (response: Pick<Response, 'locals'>): string =>
  ((response.locals as { nonce?: string }).nonce ??= randomBytes(18).toString('base64'));

/** What pages may load and do: scripts of this server alone, and styles of its own or set by its scripts. */
export const contentPolicy = (nonce: (response: Response) => string = nonceOf): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The solver that cuts cable is WebAssembly, shipped with the pages.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Angular sets component styles through style elements, which it gives the page's nonce.
        styleSrc: ["'self'", (_request, response) => `'nonce-${nonce(response as Response)}'`],
        imgSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });

/** A report brings its styles and pictures in itself, and may do nothing else. */
export const REPORT_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
