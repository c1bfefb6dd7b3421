import path from 'node:path';
import { existsSync } from 'node:fs';
import express, { type ErrorRequestHandler, type Express } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { openApi } from '#contracts/routes.ts';
import { isConnectionLoss } from './db/connect.ts';
import { guard } from './guard.ts';
import { Refusal } from './refusal.ts';
import { contentRoutes } from './routes/contents.ts';
import { findingRoutes } from './routes/findings.ts';
import { handoffRoutes } from './routes/handoffs.ts';
import { recipeRoutes } from './routes/recipes.ts';
import { songRoutes } from './routes/songs.ts';
import { stepRoutes } from './routes/steps.ts';
import type { Services } from './services.ts';

export function makeApp(services: Services, logger: Logger): Express {
  const { config } = services;
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger, autoLogging: { ignore: (r) => !r.url?.startsWith('/api/') }, serializers: { req: (r: { method: string; url: string }) => ({ method: r.method, url: r.url }), res: (r: { statusCode: number }) => ({ status: r.statusCode }) } }));
  app.use(helmet({ contentSecurityPolicy: { directives: { ...helmet.contentSecurityPolicy.getDefaultDirectives(), 'upgrade-insecure-requests': null, 'script-src': ["'self'", "'wasm-unsafe-eval'"], 'worker-src': ["'self'", 'blob:'], 'connect-src': ["'self'"], 'font-src': ["'self'"], 'style-src': ["'self'", "'unsafe-inline'"] } }, strictTransportSecurity: false }));
  app.use(guard(config.hosts));
  // Steps by hand name rows and points: a million rows in spans are a few megabytes.
  app.use('/api', express.json({ limit: '8mb' }));
  app.get('/api/openapi.json', (_request, response) => void response.json(openApi()));
  app.get('/api/health', async (_request, response) => {
    await services.songs.ping();
    response.json({ ok: true });
  });
  app.use('/api', songRoutes(services), contentRoutes(services), stepRoutes(services), findingRoutes(services), handoffRoutes(services), recipeRoutes(services));
  app.all('/api/{*rest}', (request) => {
    throw new Refusal({ code: 'route-unknown', where: { field: `${request.method} ${request.path}`.slice(0, 200) } });
  });
  servePage(app, config.webFolder);
  app.use(answerErrors(logger));
  return app;
}

/** The built page; every address that is no file is one of its views. */
function servePage(app: Express, folder: string): void {
  const index = path.join(folder, 'index.html');
  if (!existsSync(index)) return;
  app.use('/assets', express.static(path.join(folder, 'assets'), { immutable: true, maxAge: '1y' }));
  app.use(express.static(folder, { index: false }));
  app.get('/{*path}', (_request, response) => response.sendFile(index, { headers: { 'Cache-Control': 'no-cache' } }));
}

/** Errors in the one shape. What is not a refusal is a defect: it is logged, and the answer says nothing of the inside. */
function answerErrors(logger: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const refusal = error instanceof Refusal ? error : asRefusal(error);
    if (refusal.status >= 500) logger.error({ err: error, url: request.url }, 'defect');
    response.status(refusal.status).json(refusal.body);
  };
}

function asRefusal(error: unknown): Refusal {
  const type = error instanceof Error && 'type' in error ? String(error.type) : '';
  if (type === 'entity.too.large') return new Refusal({ code: 'file-too-large', where: { field: 'body' }, mostBytes: 1048576 });
  if (type.startsWith('entity.') || type.startsWith('encoding.') || type.startsWith('charset.') || type.startsWith('request.')) return new Refusal({ code: 'body-unreadable', where: { field: 'body' }, why: error instanceof Error ? error.message.slice(0, 200) : '' });
  if (isConnectionLoss(error)) return new Refusal({ code: 'database-away', where: {} });
  if (error instanceof URIError) return new Refusal({ code: 'body-unreadable', where: { field: 'path' }, why: 'an address that cannot be decoded' });
  return new Refusal({ code: 'defect', where: {} });
}
