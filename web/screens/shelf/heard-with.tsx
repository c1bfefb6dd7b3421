import { keyNow } from '../../keys/shown.ts';
import { kitNames } from '#core/instruments/sounds.ts';
import { programNames } from '#core/instruments/general-midi.ts';
import type { SongView } from '#contracts/songs.ts';
import { Choice } from '../../fields/choice.tsx';
import { useShelf } from '../../state/shelf.ts';

const own = -1;

/** How clips are heard: how fast, and with which kit or instrument in the place of their own. */
export function HeardWith({ song }: { song: SongView | undefined }) {
  const { tempo, kit, sound } = useShelf();
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-3 py-1.5 text-[12.5px]">
      <Choice
        label="Heard at"
        value={tempo}
        disabled={!song}
        options={[
          ['its own', 'its own tempo'],
          ["the song's", "the song's tempo"],
        ]}
        set={(to) => useShelf.setState({ tempo: to })}
      />
      <Choice
        label="Kit"
        value={kit ?? own}
        options={[
          [own, 'its own'],
          ...Object.entries(kitNames).map(([n, name]) => [Number(n), name] as const),
        ]}
        set={(n) => useShelf.setState({ kit: n === own ? undefined : n })}
      />
      <Choice
        label="Instrument"
        value={sound ?? own}
        options={[[own, 'its own'], ...programNames.map((name, n) => [n, name] as const)]}
        set={(n) => useShelf.setState({ sound: n === own ? undefined : n })}
        className="max-w-[170px]"
      />
      <span className="text-faint">
        Arrows hear. Space again or silent. {keyNow('shelf-turn')} around or once.{' '}
        {song ? 'Enter puts it at the bar that is pressed. ' : ''}
        {keyNow('shelf-rename')} renames, {keyNow('shelf-remove')} takes it off.
      </span>
    </div>
  );
}
