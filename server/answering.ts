import { Router, type Request, type Response } from 'express';
import { addressOf, addresses, type Params, type RouteName } from '#contracts/addresses.ts';
import {
  routes,
  type Answer,
  type BodyUnderstood,
  type QueryUnderstood,
} from '#contracts/routes.ts';
import type { Route } from '#contracts/route.ts';
import { jsonBody, queryOf } from './body.ts';

/** A request as its handler sees it: understood as the table of routes describes it. */
export interface Asked<N extends RouteName> {
  readonly params: Params<N>;
  readonly query: QueryUnderstood<N>;
  readonly body: BodyUnderstood<N>;
  readonly request: Request;
  /** For what is no JSON: a handler that answers with a file sends it itself. */
  readonly response: Response;
}

export type Handler<N extends RouteName> = (asked: Asked<N>) => Promise<Answer<N>>;
/** A handler for every route there is. */
export type Handlers = { readonly [N in RouteName]: Handler<N> };

/** The routes of the table, each with its handler. */
export function answering(handlers: Handlers): Router {
  const router = Router();
  for (const name of Object.keys(addresses) as RouteName[]) {
    const { method, path } = addressOf(name);
    const way = method.toLowerCase() as Lowercase<typeof method>;
    router[way](path.replace(/\{(\w+)\}/g, ':$1'), (request: Request, response: Response) =>
      answer(name, handlers[name] as Handler<RouteName>, request, response),
    );
  }
  return router;
}

async function answer(
  name: RouteName,
  handler: Handler<RouteName>,
  request: Request,
  response: Response,
): Promise<void> {
  const route: Route = routes[name];
  const query = route.query && queryOf(request, route.query);
  const body =
    route.body && route.body !== 'files'
      ? jsonBody(request, route.body, { mayBeEmpty: route.bodyMayBeEmpty === true })
      : undefined;
  const answered = await handler({
    params: request.params,
    query,
    body,
    request,
    response,
  } as Asked<RouteName>);
  // What is no plain answer was sent by its handler.
  if (typeof route.answer === 'string' || response.headersSent) return;
  response.status(route.status);
  if (route.answer) response.json(answered);
  else response.end();
}
