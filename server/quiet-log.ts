import { BaseError } from 'sequelize';

/**
 * What goes into the log: where and what kind, nothing of a song. Errors of the database carry the
 * statement and its values, addresses of files and searches carry names: both are left out.
 */
export function quietError(error: unknown): object {
  if (!(error instanceof Error)) return { type: typeof error };
  const parent = error instanceof BaseError && 'parent' in error ? error.parent : undefined;
  const code = [error, parent]
    .map((e) => (e instanceof Error && 'code' in e ? String(e.code) : ''))
    .find(Boolean);
  const frames = (error.stack ?? '')
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .slice(0, 12);
  // A message of our own code or of Node's says what went wrong; one of the database may quote a value.
  const message = parent || error instanceof BaseError ? undefined : error.message.slice(0, 300);
  return {
    type: error.name,
    ...(code ? { code } : {}),
    ...(message ? { message } : {}),
    stack: frames.join('\n'),
  };
}

/** An address without names, searches and the secrets of links. */
export const quietUrl = (url: string): string =>
  (url.split('?')[0] ?? '').replace(/\/files\/.*$/, '/files/…').replace(/^\/l\/.*$/, '/l/…');
