import type { Request } from 'express';
import type { z } from 'zod';
import { invalid } from '#core/operations/run.ts';
import { valueFault } from './plain-values.ts';
import { Refusal } from './refusal.ts';

/** A JSON body of a known shape, or the request ends. A request that may have none gives the defaults. */
export function jsonBody<T extends z.ZodType>(
  request: Request,
  schema: T,
  { mayBeEmpty = false } = {},
): z.infer<T> {
  const empty =
    request.headers['content-length'] === '0' ||
    (request.headers['content-length'] === undefined &&
      request.headers['transfer-encoding'] === undefined);
  if (!(mayBeEmpty && empty) && !request.is('application/json')) {
    throw new Refusal({
      code: 'content-type-wrong',
      where: { field: 'Content-Type' },
      expected: 'application/json',
      found: request.headers['content-type'] ?? 'none',
    });
  }
  const fault = valueFault('body', request.body ?? {});
  if (fault) throw new Refusal(fault);
  const parsed = schema.safeParse(request.body ?? {});
  if (!parsed.success) throw new Refusal(invalid('body', parsed.error));
  return parsed.data;
}

/** The query of an address, of a known shape, or the request ends. */
export function queryOf<T extends z.ZodType>(request: Request, schema: T): z.output<T> {
  const query = { ...request.query };
  const fault = valueFault('query', query);
  if (fault) throw new Refusal(fault);
  const parsed = schema.safeParse(query);
  if (!parsed.success) throw new Refusal(invalid('query', parsed.error));
  return parsed.data;
}
