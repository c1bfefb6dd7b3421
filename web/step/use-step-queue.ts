import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { showProblem, songQuery, useStep, type StepAsked } from '../api/queries.ts';

/** A step on the song as it is when its turn comes; none where nothing is left to do then. */
type Waiting = (song: SongView) => StepAsked | undefined;

/**
 * Steps one after the other: hands are quicker than the way to the server and back. Each is worked out from
 * the song as the one before it left it, also when the view that asked for it is gone.
 */
export function useStepQueue({ id, revision }: SongView) {
  const client = useQueryClient();
  const { mutateAsync } = useStep(id, revision);
  const queue = useRef<Waiting[]>([]);
  const running = useRef(false);
  const [busy, setBusy] = useState(false);
  const add = useCallback(
    async (waiting: Waiting): Promise<void> => {
      queue.current.push(waiting);
      if (running.current) return;
      running.current = true;
      setBusy(true);
      for (let next = queue.current.shift(); next; next = queue.current.shift()) {
        try {
          const song = await client.fetchQuery({ ...songQuery(id), staleTime: Infinity });
          const asked = next(song);
          // A refusal is told where it comes from; those behind it may go all the same.
          if (asked)
            await mutateAsync({ ...asked, revision: song.revision }).catch(() => undefined);
        } catch (error) {
          showProblem(error);
        }
      }
      running.current = false;
      setBusy(false);
    },
    [client, id, mutateAsync],
  );
  return { add, busy };
}
