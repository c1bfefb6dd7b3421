import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import type { DatabaseWatch } from './db/watch.ts';
import { Refusal } from './refusal.ts';

/** A request that took so long asks whether the database answers, and again after as long. */
const patienceMs = 1000;

/**
 * Answers requests that wait for a database which does not answer, within three seconds. Work that takes its
 * time, while the database is there, is left to it.
 */
export function answerInTime(watch: DatabaseWatch, logger: Logger): RequestHandler {
  return (request, response, next) => {
    const look = async (): Promise<void> => {
      const isThere = await watch.answers();
      if (response.headersSent || response.destroyed) return;
      if (isThere) return wait();
      const isUnsure = !['GET', 'HEAD'].includes(request.method);
      const refusal = new Refusal({ code: 'database-away', where: {}, isUnsure });
      logger.warn({ code: refusal.problem.code, id: request.id }, 'not answered');
      // Its handler still goes on: an error of its own finds the answer given, and says nothing.
      response.status(refusal.status).json(refusal.body);
    };
    let timer: NodeJS.Timeout;
    const wait = (): void => {
      timer = setTimeout(() => void look(), patienceMs);
    };
    response.once('close', () => clearTimeout(timer));
    wait();
    next();
  };
}
