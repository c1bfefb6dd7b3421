import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import path from 'node:path';
import { existsSync } from 'node:fs';
import express, { type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { openApi } from '#contracts/openapi.ts';
import { answerErrors } from './answer-errors.ts';
import { answerInTime } from './answer-in-time.ts';
import { answering, type Handlers } from './answering.ts';
import { BodyTooWide, countKeys, maxBodyKeys } from './body-keys.ts';
import { guard } from './guard.ts';
import { quietError, quietUrl } from './quiet-log.ts';
import { Refusal } from './refusal.ts';
import { needRoom } from './room.ts';
import { bankHandlers } from './routes/banks.ts';
import { contentHandlers } from './routes/contents.ts';
import { findingHandlers } from './routes/findings.ts';
import { handoffHandlers } from './routes/handoffs.ts';
import { originalHandlers } from './routes/originals.ts';
import { instrumentHandlers } from './routes/instruments.ts';
import { linkHandlers } from './routes/links.ts';
import { receiverHandlers } from './routes/receivers.ts';
import { recipeHandlers } from './routes/recipes.ts';
import { shelfHandlers } from './routes/shelf.ts';
import { songHandlers } from './routes/songs.ts';
import { stepHandlers } from './routes/steps.ts';
import type { Services } from './services.ts';

export function makeApp(services: Services, logger: Logger): Express {
  const { config } = services;
  const app = express();
  app.disable('x-powered-by');
  app.use(
    pinoHttp({
      logger,
      genReqId: requestId,
      autoLogging: { ignore: (r) => !r.url?.startsWith('/api/') },
      serializers: {
        err: quietError,
        req: (r: { id: string; method: string; url: string }) => ({
          id: r.id,
          method: r.method,
          url: quietUrl(r.url),
        }),
        res: (r: { statusCode: number }) => ({ status: r.statusCode }),
      },
    }),
  );
  // Isolated from other origins, the page may share memory with its workers.
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          ...helmet.contentSecurityPolicy.getDefaultDirectives(),
          'upgrade-insecure-requests': null,
          'script-src': ["'self'", "'wasm-unsafe-eval'"],
          'worker-src': ["'self'", 'blob:'],
          'connect-src': ["'self'"],
          'font-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
    }),
  );
  app.use(guard(config.hosts));
  // Steps by hand name rows and points: a million rows in spans are a few megabytes.
  app.use('/api', answerInTime(services.watch, logger));
  app.use(
    '/api',
    needRoom(config),
    express.json({
      limit: config.mostBodyBytes,
      verify: (_request, _response, body) => {
        const keys = countKeys(body);
        if (keys > maxBodyKeys) throw new BodyTooWide(keys);
      },
    }),
  );
  const described = openApi();
  app.get('/api/openapi.json', (_request, response) => void response.json(described));
  app.use(answering(allHandlers(services)));
  app.all('/api/{*rest}', (request) => {
    throw new Refusal({
      code: 'route-unknown',
      where: { field: `${request.method} ${request.path}`.slice(0, 200) },
    });
  });
  servePage(app, config.webFolder);
  app.use(answerErrors(logger, config));
  return app;
}

const allHandlers = (services: Services): Handlers => ({
  ...songHandlers(services),
  ...bankHandlers(services),
  ...shelfHandlers(services),
  ...contentHandlers(services),
  ...stepHandlers(services),
  ...findingHandlers(services),
  ...handoffHandlers(services),
  ...linkHandlers(services),
  ...receiverHandlers(services),
  ...recipeHandlers(services),
  ...instrumentHandlers(services),
  ...originalHandlers(services),
  async getHealth() {
    await services.songs.ping();
    return { ok: true };
  },
});

/**
 * Each request has an id, which its answer says and every line of the log about it: what somebody reports
 * is found there.
 */
function requestId(_request: IncomingMessage, response: ServerResponse): string {
  const id = randomUUID();
  response.setHeader('X-Request-Id', id);
  return id;
}

/** The built page; every address that is no file is one of its views. */
function servePage(app: Express, folder: string): void {
  const index = path.join(folder, 'index.html');
  if (!existsSync(index)) return;
  app.use(
    '/assets',
    express.static(path.join(folder, 'assets'), { immutable: true, maxAge: '1y' }),
  );
  app.use(express.static(folder, { index: false }));
  app.get('/{*path}', (_request, response) =>
    response.sendFile(index, { headers: { 'Cache-Control': 'no-cache' } }),
  );
}
