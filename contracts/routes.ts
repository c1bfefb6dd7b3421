import { z } from 'zod';
import { recipeSchema } from '#core/operations/recipe/run/recipe.ts';
import { errorSchema } from './errors.ts';
import { findingListSchema, leaveSchema } from './findings.ts';
import { handoffListSchema, handoffRequestSchema, handoffSchema } from './handoffs.ts';
import { recipeListSchema, recipeViewSchema } from './recipes.ts';
import { removedSchema, songListSchema, songRowSchema, songSchema, tempoListSchema, uploadedSchema } from './songs.ts';
import { moveSchema, movedSchema, operationListSchema, stepListSchema, stepRequestSchema, stepResultSchema } from './steps.ts';

/** One route of the API: what `/api/openapi.json` is made from, and the tests hold the server against. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'delete';
  readonly path: string;
  readonly summary: string;
  readonly query?: Readonly<Record<string, string>>;
  /** A JSON body, or files in the multipart field `file`. */
  readonly body?: z.ZodType | 'files';
  readonly status: 200 | 201 | 204;
  /** A JSON answer, bytes of a file, or a text. */
  readonly answer?: z.ZodType | 'file' | 'text';
  readonly errors: readonly number[];
}

export const routes: readonly Route[] = [
  { method: 'post', path: '/api/songs', summary: 'Bring in one or many files', body: 'files', status: 201, answer: uploadedSchema, errors: [400, 413, 415, 422, 429] },
  { method: 'get', path: '/api/songs', summary: 'The songs, a page at a time', query: { removed: 'true for the removed ones', search: 'part of a title or file name', sort: 'newest, oldest, touched, name or largest', from: 'how many to pass over', limit: 'how many at most, up to 500' }, status: 200, answer: songListSchema, errors: [400] },
  { method: 'get', path: '/api/songs/{id}', summary: 'A song: its tracks, what each carries, and the timing', status: 200, answer: songSchema, errors: [404] },
  { method: 'get', path: '/api/songs/{id}/tempos', summary: 'Every tempo of a song, where it lists only the first', status: 200, answer: tempoListSchema, errors: [404] },
  { method: 'get', path: '/api/songs/{id}/map.mid', summary: 'The map alone as a MIDI file: tempos, meters, keys, markers, sections, timecode and length, and no music', status: 200, answer: 'file', errors: [404, 422] },
  { method: 'get', path: '/api/songs/{id}/original', summary: 'The file exactly as it was received', status: 200, answer: 'file', errors: [404] },
  { method: 'delete', path: '/api/songs/{id}', summary: 'Remove a song; it can be restored until it is purged', status: 200, answer: removedSchema, errors: [404] },
  { method: 'post', path: '/api/songs/{id}/restore', summary: 'Bring a removed song back', status: 200, answer: songRowSchema, errors: [404] },
  { method: 'get', path: '/api/operations', summary: 'What can be done to a song', status: 200, answer: operationListSchema, errors: [] },
  { method: 'post', path: '/api/songs/{id}/steps', summary: 'Take a step, or preview it', body: stepRequestSchema, status: 200, answer: stepResultSchema, errors: [400, 404, 409, 415, 422] },
  { method: 'get', path: '/api/songs/{id}/steps', summary: 'The song’s history', status: 200, answer: stepListSchema, errors: [404] },
  { method: 'get', path: '/api/songs/{id}/findings', summary: 'What the look-over notices, with the steps that would settle it', status: 200, answer: findingListSchema, errors: [404] },
  { method: 'post', path: '/api/songs/{id}/findings', summary: 'Leave a finding alone, or take it up again', body: leaveSchema, status: 204, errors: [400, 404, 415] },
  { method: 'post', path: '/api/songs/{id}/undo', summary: 'Undo the last step', body: moveSchema, status: 200, answer: movedSchema, errors: [404, 409] },
  { method: 'post', path: '/api/songs/{id}/redo', summary: 'Redo the step that was undone', body: moveSchema, status: 200, answer: movedSchema, errors: [404, 409] },
  { method: 'post', path: '/api/songs/{id}/handoffs', summary: 'Make the files for the other side, with slip and proof', body: handoffRequestSchema, status: 201, answer: handoffSchema, errors: [400, 404, 409, 415, 422] },
  { method: 'get', path: '/api/songs/{id}/handoffs', summary: 'What was handed off', status: 200, answer: handoffListSchema, errors: [404] },
  { method: 'get', path: '/api/handoffs/{id}/files/{name}', summary: 'A file of a handoff', status: 200, answer: 'file', errors: [404] },
  { method: 'get', path: '/api/handoffs/{id}/slip', summary: 'The slip as a text', status: 200, answer: 'text', errors: [404] },
  { method: 'get', path: '/api/blobs/{sha256}', summary: 'The events of a track, as the body of an MTrk chunk, by the hash that the song names; never changes', status: 200, answer: 'file', errors: [404] },
  { method: 'get', path: '/api/sounds', summary: 'The sound bank that songs are heard with, SF2 or SF3', status: 200, answer: 'file', errors: [404] },
  { method: 'get', path: '/api/recipes', summary: 'Recipes of one’s own, then those that are shipped', status: 200, answer: recipeListSchema, errors: [] },
  { method: 'post', path: '/api/recipes', summary: 'Save a recipe; it is run with the operation recipe.run', body: recipeSchema, status: 201, answer: recipeViewSchema, errors: [400, 415] },
  { method: 'put', path: '/api/recipes/{id}', summary: 'Change a recipe', body: recipeSchema, status: 200, answer: recipeViewSchema, errors: [400, 404, 415, 422] },
  { method: 'delete', path: '/api/recipes/{id}', summary: 'Remove a recipe; it can be restored', status: 204, errors: [404, 422] },
  { method: 'post', path: '/api/recipes/{id}/restore', summary: 'Bring a removed recipe back', status: 200, answer: recipeViewSchema, errors: [404, 422] },
  { method: 'get', path: '/api/health', summary: 'Whether the server and its database answer', status: 200, answer: z.object({ ok: z.literal(true) }), errors: [] },
];

const json = (schema: z.ZodType): object => ({ 'application/json': { schema: z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) } });

function bodyOf(body: Route['body']): object | undefined {
  if (body === undefined) return undefined;
  if (body !== 'files') return { required: true, content: json(body) };
  const file = { type: 'array', items: { type: 'string', format: 'binary' } };
  return { required: true, content: { 'multipart/form-data': { schema: { type: 'object', required: ['file'], properties: { file } } } } };
}

function answerOf(answer: Route['answer']): object {
  if (answer === 'file') return { 'audio/midi': { schema: { type: 'string', format: 'binary' } } };
  if (answer === 'text') return { 'text/plain': { schema: { type: 'string' } } };
  return answer ? json(answer) : {};
}

/** The API in OpenAPI 3.1 terms, whose schemas are JSON Schema as zod makes it. */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const route of routes) {
    const names = [...route.path.matchAll(/\{(\w+)\}/g)].map((m) => m[1]!);
    const parameters = [
      ...names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
      ...Object.entries(route.query ?? {}).map(([name, description]) => ({ name, in: 'query', description, schema: { type: 'string' } })),
    ];
    const body = bodyOf(route.body);
    const errors = Object.fromEntries(route.errors.map((status) => [status, { description: 'An error', content: json(errorSchema) }]));
    paths[route.path] = {
      ...paths[route.path],
      [route.method]: { summary: route.summary, parameters, ...(body ? { requestBody: body } : {}), responses: { [route.status]: { description: 'Done', content: answerOf(route.answer) }, ...errors } },
    };
  }
  return { openapi: '3.1.0', info: { title: 'Amber Satchel', version: '1' }, paths };
}
