import type { z } from 'zod';
import type { Song } from '../song/song.ts';
import type { sourceSchema } from './source-schema.ts';

export type SourceName = z.infer<typeof sourceSchema>;
/** A source that is there to be fetched. */
export type NamedSource = Exclude<SourceName, { blank: string }>;

/** The same for one source however it is called. */
export const sourceKey = (source: NamedSource): string =>
  'original' in source
    ? `original ${source.original} ${source.part}`
    : `song ${source.song} ${source.revision}`;

/** What people call a source. */
export const sourceWords = (source: SourceName): string => {
  if ('blank' in source) return `“${source.blank}”`;
  if (source.called) return `“${source.called}”`;
  return 'original' in source ? `the file ${source.original.slice(0, 8)}…` : 'another song';
};

/** Sources by their keys, as whoever runs a step fetched them. */
export type Sources = ReadonlyMap<string, Song>;
export const noSources: Sources = new Map();

/** Settings whose blanks are filled: a field that is a blank of a name gets the source given for it. */
export function filled(
  settings: Readonly<Record<string, unknown>>,
  given: Readonly<Record<string, NamedSource>>,
): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(settings).map(([field, value]) => [
      field,
      (isBlank(value) && given[value.blank]) || value,
    ]),
  );
}

/** Settings for songs to come: what was taken from outside becomes a blank of its name. */
export const blanked = (settings: Readonly<Record<string, unknown>>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(settings).map(([field, value]) => [
      field,
      isNamedSource(value) ? { blank: value.called?.trim() || 'What is brought in' } : value,
    ]),
  );

/** The names of the blanks of steps, each once. */
export const blanksOf = (
  steps: readonly { readonly settings: Readonly<Record<string, unknown>> }[],
): string[] => [
  ...new Set(
    steps.flatMap(({ settings }) =>
      Object.values(settings)
        .filter(isBlank)
        .map(({ blank }) => blank),
    ),
  ),
];

/** Whether settings name something outside their song, be it for steps within. */
export const namesSources = (settings: Readonly<Record<string, unknown>>): boolean =>
  Object.values({ ...settings, ...(settings.sources as object | undefined) }).some(isNamedSource);

const isNamedSource = (value: unknown): value is NamedSource =>
  typeof value === 'object' &&
  value !== null &&
  ('original' in value || ('song' in value && 'revision' in value));

export const isBlank = (value: unknown): value is { blank: string } =>
  typeof value === 'object' &&
  value !== null &&
  'blank' in value &&
  typeof value.blank === 'string';
