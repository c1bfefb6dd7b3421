import type { z } from 'zod';

/** An answer beside the usual one. */
export interface OtherAnswer {
  readonly status: 200 | 201;
  readonly type: `${string}/${string}`;
  /** Left out of a file. */
  readonly schema?: z.ZodType;
}

/**
 * One request of the API: the server's handlers, the page's client and `/api/openapi.json` are made from
 * it. Where it goes is in `addresses.ts`.
 */
export interface Route {
  readonly tag:
    | 'songs'
    | 'steps'
    | 'findings'
    | 'handoffs'
    | 'receivers'
    | 'recipes'
    | 'instruments'
    | 'shelf'
    | 'program';
  readonly summary: string;
  readonly query?: z.ZodObject;
  /** A JSON body, or files in the multipart field `file`. */
  readonly body?: z.ZodType | 'files';
  /** What may be sent as JSON in the place of files. */
  readonly orBody?: z.ZodType;
  /** A body that says nothing beyond its defaults may be left out. */
  readonly bodyMayBeEmpty?: true;
  readonly status: 200 | 201 | 204;
  /** A JSON answer, or the media type of a file. */
  readonly answer?: z.ZodType | `${string}/${string}`;
  /** What else may be answered, where it is asked for otherwise. */
  readonly orAnswers?: readonly OtherAnswer[];
  /** What it is refused with, beside what any request may be: see `openapi.ts`. */
  readonly errors: readonly number[];
}
