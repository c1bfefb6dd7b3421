import type { Request } from 'express';
import type { z } from 'zod';
import { invalid } from '#core/operations/run.ts';
import { Refusal } from './refusal.ts';

/** A JSON body of a known shape, or the request ends. A request that may have none gives the defaults. */
export function jsonBody<T extends z.ZodType>(request: Request, schema: T, { mayBeEmpty = false } = {}): z.infer<T> {
  const empty = request.headers['content-length'] === '0' || (request.headers['content-length'] === undefined && request.headers['transfer-encoding'] === undefined);
  if (!(mayBeEmpty && empty) && !request.is('application/json')) {
    throw new Refusal({ code: 'content-type-wrong', where: { field: 'Content-Type' }, expected: 'application/json', found: request.headers['content-type'] ?? 'none' });
  }
  const parsed = schema.safeParse(request.body ?? {});
  if (!parsed.success) throw new Refusal(invalid('body', parsed.error));
  return parsed.data;
}
