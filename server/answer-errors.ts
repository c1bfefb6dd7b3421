import type { ErrorRequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import { BodyTooWide, maxBodyKeys } from './body-keys.ts';
import type { Config } from './config.ts';
import { isConnectionLoss } from './db/connect.ts';
import { quietUrl } from './quiet-log.ts';
import { Refusal } from './refusal.ts';
import { hasRoom, isNoRoom } from './room.ts';

/**
 * Errors in the one shape. What is not a refusal is a defect: it is logged, and the answer says nothing of
 * the inside. Nobody is told who has gone away.
 */
export function answerErrors(logger: Logger, config: Config): ErrorRequestHandler {
  return async (error: unknown, request, response, next) => {
    // What was answered in time needs no second answer, whatever became of it.
    if (response.writableEnded) return;
    if (response.destroyed && isGoneAway(error)) return;
    if (response.headersSent && !isLines(response)) return next(error);
    const refusal = error instanceof Refusal ? error : await asRefusal(error, config);
    if (refusal.status === 500)
      logger.error({ err: error, id: request.id, url: quietUrl(request.url) }, 'defect');
    else if (refusal.status > 500)
      logger.warn(
        { code: refusal.problem.code, id: request.id, url: quietUrl(request.url) },
        'not answered',
      );
    if (response.destroyed) return;
    // An answer line by line has begun: its last line says what was wrong.
    if (response.headersSent)
      response.end(`${JSON.stringify({ error: { ...refusal.body, status: refusal.status } })}\n`);
    else response.status(refusal.status).json(refusal.body);
  };
}

/** Whoever asked has gone away, which stopped the work or broke the answer off. */
const isGoneAway = (error: unknown): boolean =>
  error instanceof Error &&
  (error.name === 'AbortError' ||
    ('code' in error && /^ERR_STREAM_(PREMATURE_CLOSE|DESTROYED)$/.test(String(error.code))));

const isLines = (response: Response): boolean =>
  String(response.getHeader('content-type')).includes('ndjson');

async function asRefusal(error: unknown, config: Config): Promise<Refusal> {
  const type = error instanceof Error && 'type' in error ? String(error.type) : '';
  if (type === 'entity.too.large')
    return new Refusal({
      code: 'file-too-large',
      where: { field: 'body' },
      mostBytes: config.mostBodyBytes,
      setting: 'SATCHEL_MAX_BODY_MB',
    });
  if (error instanceof BodyTooWide)
    return new Refusal({
      code: 'body-too-wide',
      where: { field: 'body' },
      maxKeys: maxBodyKeys,
      keys: error.keys,
    });
  if (isNoRoom(error)) return new Refusal({ code: 'no-room', where: {} });
  if (sentWrong(error))
    return new Refusal({
      code: 'body-unreadable',
      where: { field: 'body' },
      why: error instanceof Error ? error.message.slice(0, 200) : '',
    });
  // A database whose disk is full stops and cannot start: what is missing is room.
  if (isConnectionLoss(error))
    return new Refusal({ code: (await hasRoom(config)) ? 'database-away' : 'no-room', where: {} });
  if (error instanceof URIError)
    return new Refusal({
      code: 'body-unreadable',
      where: { field: 'path' },
      why: 'an address that cannot be decoded',
    });
  return new Refusal({ code: 'defect', where: {} });
}

/**
 * Errors of the middleware that reads bodies (http-errors): a body that is broken, of another encoding, or
 * was broken off.
 */
const sentWrong = (error: unknown): boolean =>
  error instanceof Error &&
  'status' in error &&
  typeof error.status === 'number' &&
  error.status >= 400 &&
  error.status < 500;
