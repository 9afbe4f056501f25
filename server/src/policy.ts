import { randomBytes } from 'node:crypto';
import type { RequestHandler, Response } from 'express';
import helmet from 'helmet';

/** Stands in the built page where the nonce of each page that is sent goes. */
export const NONCE_HERE = 'NONCE_OF_THIS_PAGE';

/** The nonce of a response: what its page may bring of its own is known by it. */
export const nonceOf = (response: Pick<Response, 'locals'>): string =>
  ((response.locals as { nonce?: string }).nonce ??= randomBytes(18).toString('base64'));

/** What pages may load and do: scripts of this server alone, and styles of its own or set by its scripts. */
export const contentPolicy = (): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The solver that cuts cable is WebAssembly, shipped with the pages.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        // Angular sets component styles through style elements, which it gives the page's nonce.
        styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response as Response)}'`],
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
