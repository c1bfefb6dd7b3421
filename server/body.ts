import type { Request } from 'express';
import type { z } from 'zod';
import { schemaFault } from '#core/problems/schema-fault.ts';
import { valueFault } from '#core/problems/plain-values.ts';
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
  return understood(schema, request.body ?? {}, 'body');
}

/** A value of a known shape, or the request ends. */
export function understood<T extends z.ZodType>(
  schema: T,
  value: unknown,
  where: string,
): z.infer<T> {
  const fault = valueFault(where, value);
  if (fault) throw new Refusal(fault);
  const parsed = schema.safeParse(value);
  if (!parsed.success) throw new Refusal(schemaFault(where, parsed.error, value));
  return parsed.data;
}

/** The query of an address, of a known shape, or the request ends. */
export function queryOf<T extends z.ZodType>(request: Request, schema: T): z.output<T> {
  const query = { ...request.query };
  const fault = valueFault('query', query);
  if (fault) throw new Refusal(fault);
  const parsed = schema.safeParse(query);
  if (!parsed.success) throw new Refusal(schemaFault('query', parsed.error, query));
  return parsed.data;
}
