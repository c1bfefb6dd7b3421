import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useIntake } from '../state/intake.ts';
import { filesIn } from './dropped-files.ts';

/** Takes files in from anywhere, and goes to where they can be seen: one file to its intake, several to the list. */
export function useTakeFiles(): (files: readonly File[]) => Promise<void> {
  const client = useQueryClient();
  const navigate = useNavigate();
  const take = useIntake((s) => s.take);
  return useCallback(
    async (files) => {
      if (files.length === 0) return;
      if (files.length > 1) void navigate('/');
      const arrived = await take(files, client);
      const [only] = arrived;
      if (arrived.length === 1 && only?.state === 'in' && only.songs.length === 1)
        void navigate(`/songs/${only.songs[0]}/in`);
      else void navigate('/');
    },
    [client, navigate, take],
  );
}

const holdsFiles = (event: DragEvent): boolean =>
  event.dataTransfer?.types.includes('Files') ?? false;

/** A file dropped on any view is brought in. */
export function DropAnywhere() {
  const [over, setOver] = useState(false);
  const take = useTakeFiles();
  useEffect(() => {
    let depth = 0;
    const enter = (e: DragEvent): void => {
      if (holdsFiles(e)) setOver(++depth > 0);
    };
    const leave = (e: DragEvent): void => {
      if (holdsFiles(e)) setOver((depth = Math.max(0, depth - 1)) > 0);
    };
    const hover = (e: DragEvent): void => {
      if (holdsFiles(e)) e.preventDefault();
    };
    const drop = (e: DragEvent): void => {
      if (!holdsFiles(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      if (e.dataTransfer) void filesIn(e.dataTransfer).then(take);
    };
    const listeners = { dragenter: enter, dragleave: leave, dragover: hover, drop } as const;
    for (const [name, listener] of Object.entries(listeners))
      addEventListener(name as 'drop', listener);
    return () => {
      for (const [name, listener] of Object.entries(listeners))
        removeEventListener(name as 'drop', listener);
    };
  }, [take]);
  if (!over) return null;
  return (
    <div className="pointer-events-none fixed inset-3 z-50 grid place-items-center rounded-xl border-2 border-dashed border-amber bg-paper/85">
      <p className="text-xl font-semibold">Let go to bring the files in</p>
    </div>
  );
}
