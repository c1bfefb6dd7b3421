import type { Response } from 'express';

/** Aborted when whoever asked has gone before the answer was sent. */
export function goneAway(response: Response): AbortSignal {
  const stop = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) stop.abort();
  });
  return stop.signal;
}
