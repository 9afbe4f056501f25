import compression from 'compression';
import express, { type Express } from 'express';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { adapterHandlers } from './adapters/routes.js';
import { archiveHandlers } from './archive/routes.js';
import { bindEndpoints } from './bind.js';
import type { Context } from './context.js';
import { crewHandlers } from './crew/routes.js';
import { handoverHandlers } from './handover/routes.js';
import { healthHandlers } from './health/routes.js';
import { formHandlers } from './forms/routes.js';
import { labelHandlers } from './labels/routes.js';
import { figureHandlers } from './figures/routes.js';
import { instrumentHandlers } from './instruments/routes.js';
import { testingHandlers } from './testing/routes.js';
import { traceHandlers } from './traces/routes.js';
import { jobHandlers } from './jobs/routes.js';
import { cardHandlers } from './cards/routes.js';
import { kitHandlers } from './kit/routes.js';
import { linkHandlers } from './links/routes.js';
import { contentPolicy, keptNonceOf, nonceOf } from './policy.js';
import { problemHandler, Refusal } from './problems.js';
import { reelHandlers } from './reels/routes.js';
import { measured, numbered } from './seen.js';
import { searchHandlers } from './search/routes.js';
import { drillHandlers } from './drills/routes.js';
import { looseHandlers } from './loose/routes.js';
import { offerHandlers } from './offers/routes.js';
import { scheduleHandlers } from './schedule/routes.js';
import { siteHandlers } from './sites/routes.js';
import { sessionHandlers } from './session/routes.js';
import { togetherHandlers } from './together/routes.js';

/** The whole HTTP application. `webFolder` holds the built pages; null serves the interface alone. */
export function createApp(context: Context, webFolder: string | null): Express {
  const app = express();
  app.disable('x-powered-by');
  if (context.trustedProxies) app.set('trust proxy', context.trustedProxies.split(/[ ,]+/));
  app.use(contentPolicy());
  const { counted, told } = measured(context.connections);
  app.use('/api', numbered(context.log), counted);
  app.get('/metrics', told);
  app.use(compression());
  app.use('/api', express.json({ limit: '1mb' }), (_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  app.use(
    bindEndpoints(context, {
      ...healthHandlers(context),
      ...sessionHandlers(context),
      ...crewHandlers(context),
      ...jobHandlers(context),
      ...linkHandlers(context),
      ...kitHandlers(context),
      ...cardHandlers(context),
      ...handoverHandlers(context),
      ...instrumentHandlers(context),
      ...testingHandlers(context),
      ...traceHandlers(context),
      ...reelHandlers(context),
      ...figureHandlers(context),
      ...formHandlers(context),
      ...labelHandlers(context),
      ...searchHandlers(context),
      ...siteHandlers(context),
      ...looseHandlers(context),
      ...offerHandlers(context),
      ...scheduleHandlers(context),
      ...drillHandlers(context),
      ...archiveHandlers(context),
      ...adapterHandlers(context),
      ...togetherHandlers(context),
    }),
  );
  app.use('/api', () => {
    throw new Refusal(404, 'Not found', 'There is no such address. GET /api/openapi.json lists them all.');
  });
  if (webFolder) servePages(app, webFolder);
  app.use(problemHandler(context.log));
  return app;
}

/** Hashed files may be kept for good; the page that names them may not. */
export function servePages(app: Express, webFolder: string): void {
  const page = readFileSync(join(webFolder, 'index.html'), 'utf8');
  const keptNonce = keptNonceOf(page);
  // As a device keeps it: its policy names the nonce that is in it. Whoever asks for a page is sent one of its own, below.
  app.get(
    '/index.html',
    contentPolicy(() => keptNonce),
    (_request, response) => {
      response.set('Cache-Control', 'no-cache').type('html').send(page);
    },
  );
  app.use(
    express.static(webFolder, {
      index: false,
      setHeaders: (response, path) => {
        const hashed = /-[A-Z0-9]{8}\.\w+$/.test(path);
        response.set('Cache-Control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    }),
  );
  app.get(/.*/, (request, response, next) => {
    if (/\.\w+$/.test(request.path)) {
      next(new Refusal(404, 'Not found', 'There is no such file.'));
      return;
    }
    // The nonce is another each time, so the page is never kept.
    response
      .set('Cache-Control', 'no-store')
      .type('html')
      .send(page.replaceAll(keptNonce, nonceOf(response)));
  });
}
