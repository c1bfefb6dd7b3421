import { z } from 'zod';
import { definitionSchema } from '#core/instruments/definition.ts';
import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';
import { scopeSchema } from '#core/song/scope.ts';
import { addressOf, type RouteName } from './addresses.ts';
import { errorSchema } from './errors.ts';
import { findingListSchema, findingSchema, leaveSchema } from './findings.ts';
import {
  handoffListSchema,
  handoffPreviewSchema,
  handoffRequestSchema,
  handoffSchema,
  slipSchema,
} from './handoffs.ts';
import {
  instrumentListSchema,
  instrumentsReadSchema,
  instrumentViewSchema,
} from './instruments.ts';
import { recipeListSchema, recipeViewSchema } from './recipes.ts';
import type { Route } from './route.ts';
import { routes } from './routes.ts';
import {
  blobsSchema,
  originalSchema,
  originalsSchema,
  divisionSchema,
  removedSchema,
  songListSchema,
  songRowSchema,
  songSchema,
  tempoListSchema,
  timingSchema,
  trackSchema,
  uploadedSchema,
} from './songs.ts';
import {
  moveSchema,
  movedSchema,
  operationListSchema,
  operationSchema,
  stepListSchema,
  stepRequestSchema,
  stepResultSchema,
  stepSchema,
} from './steps.ts';
import { movesSchema, reportSchema } from '#core/operations/report-schema.ts';

/** What is answered has names of its own in the document; so has what is asked, where defaults may be left out. */
const answered = {
  Error: errorSchema,
  Song: songSchema,
  SongRow: songRowSchema,
  SongList: songListSchema,
  Uploaded: uploadedSchema,
  Original: originalSchema,
  Originals: originalsSchema,
  Removed: removedSchema,
  TempoList: tempoListSchema,
  Timing: timingSchema,
  Track: trackSchema,
  Division: divisionSchema,
  Scope: scopeSchema,
  Operation: operationSchema,
  OperationList: operationListSchema,
  StepResult: stepResultSchema,
  Report: reportSchema,
  Moves: movesSchema,
  Step: stepSchema,
  StepList: stepListSchema,
  Moved: movedSchema,
  Finding: findingSchema,
  FindingList: findingListSchema,
  Handoff: handoffSchema,
  HandoffList: handoffListSchema,
  HandoffPreview: handoffPreviewSchema,
  Slip: slipSchema,
  Recipe: recipeViewSchema,
  RecipeList: recipeListSchema,
  Instrument: instrumentViewSchema,
  InstrumentList: instrumentListSchema,
  InstrumentsRead: instrumentsReadSchema,
};
const asked = {
  Blobs: blobsSchema,
  ScopeAsked: scopeSchema,
  StepRequest: stepRequestSchema,
  Move: moveSchema,
  Leave: leaveSchema,
  HandoffRequest: handoffRequestSchema,
  RecipeRequest: recipeSchema,
  InstrumentDefinition: definitionSchema,
};

const tags = {
  songs: 'Files come in and are songs',
  steps: 'What is done to songs, and undone',
  findings: 'What the look-over notices',
  handoffs: 'What leaves, with its slip',
  shelf: 'Clips in folders, to be heard and taken into songs',
  instruments: 'What plays parts: what comes along, and one’s own',
  receivers: 'Who handoffs are for, by what they can take',
  recipes: 'Steps that are kept, to be run on other songs',
  program: 'The program itself',
} satisfies Record<Route['tag'], string>;

const errorWords: Readonly<Record<number, string>> = {
  400: 'Something in the request is not as described',
  403: 'The request comes from elsewhere than this server’s own page',
  404: 'There is no such thing',
  409: 'The song has moved on since it was looked at',
  413: 'Too large',
  415: 'Another media type is wanted',
  422: 'It can be read and cannot be done; the answer says why',
  429: 'Too much at once: try again',
  500: 'A defect',
  503: 'The database is away for a moment',
  507: 'There is no room left',
};

/**
 * Any request may be refused as foreign, or find the server in trouble; one that changes something may find
 * no room; one that sends something may send it wrong.
 */
function errorsOf(name: RouteName, { body, query, errors }: Route): number[] {
  const sends = body === undefined ? [] : [400, 413, 415];
  const writes = addressOf(name).method === 'GET' ? [] : [507];
  return [
    ...new Set([
      ...errors,
      ...sends,
      ...writes,
      ...(query || errors.includes(404) ? [400] : []),
      403,
      500,
      503,
    ]),
  ].sort((a, b) => a - b);
}

const reference = (id: string): string => `#/components/schemas/${id}`;

/** JSON Schemas of components by their names, each naming the others. */
function componentsOf(
  named: Readonly<Record<string, z.ZodType>>,
  io: 'input' | 'output',
): Record<string, object> {
  const registry = z.registry<{ id: string }>();
  for (const [id, schema] of Object.entries(named)) registry.add(schema, { id });
  const { schemas } = z.toJSONSchema(registry, { io, uri: reference, unrepresentable: 'any' });
  return Object.fromEntries(
    Object.entries(schemas).map(([id, { $schema, $id, ...schema }]) => [id, schema]),
  );
}

const jsonOf = (
  named: Readonly<Record<string, z.ZodType>>,
  schema: z.ZodType,
  io: 'input' | 'output',
): object => {
  const id = Object.keys(named).find((name) => named[name] === schema);
  const { $schema, ...own } = z.toJSONSchema(schema, { io, unrepresentable: 'any' });
  return { 'application/json': { schema: id ? { $ref: reference(id) } : own } };
};

function bodyOf({ body, orBody, bodyMayBeEmpty }: Route): object | undefined {
  if (body === undefined) return undefined;
  if (body !== 'files') return { required: !bodyMayBeEmpty, content: jsonOf(asked, body, 'input') };
  const file = { type: 'array', items: { type: 'string', format: 'binary' } };
  return {
    required: true,
    content: {
      'multipart/form-data': {
        schema: { type: 'object', required: ['file'], properties: { file } },
      },
      ...(orBody ? jsonOf(asked, orBody, 'input') : {}),
    },
  };
}

/** Everything that may be answered where nothing is wrong, by its status. */
function answersOf(route: Route): Record<string, object> {
  const { answer, status, orAnswers = [] } = route;
  const content = new Map<number, object>();
  const add = (to: number, more: object): void => {
    content.set(to, { ...content.get(to), ...more });
  };
  if (typeof answer === 'string') add(status, { [answer]: { schema: fileSchema(answer) } });
  else if (answer) add(status, jsonOf(answered, answer, 'output'));
  for (const { status: other, type, schema } of orAnswers)
    add(other, {
      [type]: schema
        ? Object.values(jsonOf(answered, schema, 'output'))[0]
        : { schema: fileSchema(type) },
    });
  if (content.size === 0) return { [status]: { description: 'Done' } };
  return Object.fromEntries(
    [...content].map(([to, of]) => [to, { description: 'Done', content: of }]),
  );
}

const fileSchema = (type: string): object =>
  type.startsWith('text/') ? { type: 'string' } : { type: 'string', format: 'binary' };

function parametersOf(path: string, { query }: Route): object[] {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const properties = query
    ? (z.toJSONSchema(query, { io: 'input', unrepresentable: 'any' }).properties ?? {})
    : {};
  const inQuery = Object.entries(properties).map(([name, property]) => {
    const { description, ...schema } = property as { description?: string };
    return { name, in: 'query', required: false, ...(description ? { description } : {}), schema };
  });
  return [...inPath, ...inQuery];
}

function operationOf(name: RouteName): object {
  const route: Route = routes[name];
  const body = bodyOf(route);
  const errors = errorsOf(name, route).map((status) => [
    status,
    { description: errorWords[status]!, content: jsonOf(answered, errorSchema, 'output') },
  ]);
  return {
    operationId: name,
    tags: [route.tag],
    summary: route.summary,
    parameters: parametersOf(addressOf(name).path, route),
    ...(body ? { requestBody: body } : {}),
    responses: { ...answersOf(route), ...(Object.fromEntries(errors) as object) },
  };
}

/** The API as OpenAPI 3.1 says it, whose schemas are JSON Schema as zod makes it. */
export function openApi() {
  const paths: Record<string, Record<string, object>> = {};
  for (const name of Object.keys(routes) as RouteName[]) {
    const { method, path } = addressOf(name);
    paths[path] = { ...paths[path], [method.toLowerCase()]: operationOf(name) };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Amber Satchel',
      version: '1',
      description:
        'MIDI files come in, are looked over, cleaned and handed on. Every error has one shape: what, where, what was expected and found, and what to do.',
    },
    tags: Object.entries(tags).map(([name, description]) => ({ name, description })),
    paths,
    components: {
      schemas: { ...componentsOf(answered, 'output'), ...componentsOf(asked, 'input') },
    },
  };
}
