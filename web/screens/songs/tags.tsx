import { Tag } from 'lucide-react';
import { useRef, useState } from 'react';
import type { SongRow } from '#contracts/songs.ts';
import { useTagSong } from '../../api/queries.ts';

const chip = 'rounded-full border border-line px-1.5 text-[11px] leading-4 hover:border-stitch';

/** The tags of a song: pressed, one is searched for; they are typed in place, with commas between them. */
export function Tags({ song, find }: { song: SongRow; find: (tag: string) => void }) {
  const tag = useTagSong(song.id);
  const [typing, type] = useState<string>();
  const button = useRef<HTMLButtonElement>(null);
  const done = (keep: boolean, back: boolean): void => {
    const tags = tagsIn(typing ?? '');
    if (keep && typing !== undefined && tags.join() !== song.tags.join()) tag.mutate(tags);
    type(undefined);
    // The button is there again after the field is gone.
    if (back) requestAnimationFrame(() => button.current?.focus());
  };
  if (typing !== undefined)
    return (
      <input
        autoFocus
        aria-label={`Tags of ${song.title}, with commas between them`}
        placeholder="for Mara, to check"
        className="min-w-0 flex-1 rounded border border-amber bg-sheet px-1 text-[12px]"
        value={typing}
        maxLength={1000}
        onChange={(e) => type(e.target.value)}
        onBlur={() => done(true, false)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') done(true, true);
          else if (e.key === 'Escape') done(false, true);
        }}
      />
    );
  return (
    <span className="flex min-w-0 items-center gap-1 overflow-hidden">
      {song.tags.map((its) => (
        <button
          key={its}
          type="button"
          className={chip}
          title={`Songs with the tag “${its}”`}
          onClick={() => find(its)}
        >
          {its}
        </button>
      ))}
      <button
        ref={button}
        type="button"
        className="rounded p-0.5 text-faint hover:text-ink"
        aria-label={`Tags of ${song.title} …`}
        title="Tags …"
        onClick={() => type(song.tags.join(', '))}
      >
        <Tag size={12} aria-hidden />
      </button>
    </span>
  );
}

/** Once each, as the server takes them. */
const tagsIn = (typed: string): string[] =>
  [
    ...new Set(
      typed
        .split(',')
        .map((its) => its.trim().slice(0, 60))
        .filter((its) => its !== ''),
    ),
  ].slice(0, 20);
