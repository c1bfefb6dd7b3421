import { useOutletContext } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { Choice } from './choice.tsx';
import type { FieldProps } from './field.ts';
import { Note } from './note.tsx';

const anew = '';

/** A track of the song that is open, by its name; where it may be left empty, also a new one. */
export function TrackField({ field, value, set }: FieldProps) {
  const song = useOutletContext<SongView | undefined>();
  // Without a song, as in a recipe, no track has a name.
  if (!song) return null;
  const optional = field.anyOf !== undefined;
  const tracks = song.tracks.filter((t) => !(song.mapTrack && t === song.tracks[0]));
  return (
    <div>
      <Choice
        label={field.title!}
        className="max-w-[170px]"
        value={typeof value === 'string' ? value : optional ? anew : undefined}
        placeholder="Choose …"
        options={[
          ...(optional ? [[anew, 'a new one'] as const] : []),
          ...tracks.map((t) => [t.id, t.name || `track ${song.tracks.indexOf(t) + 1}`] as const),
        ]}
        set={(id) => set(id === anew ? null : id)}
      />
      <Note field={field} />
    </div>
  );
}
