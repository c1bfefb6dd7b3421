import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { keyName } from '#core/units/units.ts';
import { CheckBox } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { usePreferences } from '../../state/preferences.ts';
import { FamilyGlyph, instrumentText } from '../../tracks/glyph.tsx';
import {
  givingTracks,
  landsIn,
  tracksOf,
  type Held,
  type Wanted,
} from '../../intake/bring-model.ts';
import { likenesses } from '../../intake/likeness.ts';
import { LandingStrip } from './landing-strip.tsx';
import { ListenTo } from './listen-to.tsx';
import type { AddressedSource } from '../../intake/sources.ts';

interface Props {
  readonly song: SongView;
  readonly source: Pick<AddressedSource, 'name'> & { readonly held: Held; readonly wanted: Wanted };
  readonly set: (wanted: Wanted) => void;
}

/** Lays parts onto the tracks that they belong to, or makes them new tracks again. */
function Onto({
  like,
  wanted,
  set,
}: {
  like: Readonly<Record<string, string>>;
  wanted: Wanted;
  set: (wanted: Wanted) => void;
}) {
  const laid = Object.keys(wanted.onto).length > 0;
  return (
    <button
      type="button"
      className="ml-2 underline decoration-line underline-offset-4 hover:decoration-amber"
      title={
        laid
          ? 'Every part becomes a track of its own'
          : 'Parts go onto the tracks of the same name, of the same channel and program, or that play much the same'
      }
      onClick={() => set({ ...wanted, onto: laid ? {} : like })}
    >
      {laid ? 'all new' : `${Object.keys(like).length} alike`}
    </button>
  );
}

/** The tracks of a source, where each would play in this song, and what becomes of it. */
export function BringTracks({ song, source: { name, held, wanted }, set }: Props) {
  const tracks = givingTracks(held);
  const like = useMemo(() => likenesses(song, held), [song, held]);
  const lands = landsIn(song, held, wanted);
  const ontoOptions = [['', 'A new track'] as const, ...tracksOf(song)];
  const chosen = new Set(wanted.tracks);
  const choose = (ids: Iterable<string>): void => {
    const now = new Set(ids);
    set({ ...wanted, tracks: tracks.map((t) => t.id).filter((id) => now.has(id)) });
  };
  if (tracks.length === 0) return <p className="mt-4">No track of it has anything to give.</p>;
  return (
    <table className="mt-3 w-full table-fixed text-[13px]">
      <caption className="sr-only">Tracks to take</caption>
      <thead className="text-left text-[11.5px] text-faint">
        <tr className="border-b border-line">
          <th className="w-[28px] py-1 font-normal">
            <CheckBox
              label="All tracks"
              checked={chosen.size === tracks.length}
              set={(all) => choose(all ? tracks.map((t) => t.id) : [])}
            />
          </th>
          <th className="w-[30%] font-normal">Track</th>
          <th className="w-[34px] text-right font-normal">Ch.</th>
          <th className="w-[62px] pr-2 text-right font-normal">Notes</th>
          <th className="w-[74px] font-normal">Range</th>
          <th className="font-normal">Where it plays here</th>
          <th className="w-[132px] font-normal">
            Becomes
            {Object.keys(like).length > 0 && <Onto like={like} wanted={wanted} set={set} />}
          </th>
          <th className="w-[30px] font-normal">
            <ListenTo name={name} held={held} says="Listen to all of it" />
          </th>
        </tr>
      </thead>
      <tbody>
        {tracks.map((track) => (
          <TrackRow
            key={track.id}
            song={song}
            name={name}
            held={held}
            track={track}
            lands={lands}
            ontoOptions={ontoOptions}
            onto={wanted.onto[track.id] ?? ''}
            taken={chosen.has(track.id)}
            take={(on) =>
              choose(on ? [...chosen, track.id] : [...chosen].filter((id) => id !== track.id))
            }
            layOnto={(to) => set({ ...wanted, onto: laidOnto(wanted.onto, track.id, to) })}
          />
        ))}
      </tbody>
    </table>
  );
}

interface RowProps {
  readonly song: SongView;
  /** Of the source. */
  readonly name: Props['source']['name'];
  readonly held: Held;
  readonly track: Held['tracks'][number];
  readonly lands: ReturnType<typeof landsIn>;
  readonly ontoOptions: readonly (readonly [id: string, says: string])[];
  /** Id of the track that it is laid onto; '' for a new one. */
  readonly onto: string;
  readonly taken: boolean;
  readonly take: (on: boolean) => void;
  readonly layOnto: (to: string) => void;
}

function TrackRow({
  song,
  name,
  held,
  track,
  lands,
  ontoOptions,
  onto,
  taken,
  take,
  layOnto,
}: RowProps) {
  const middleC = usePreferences((p) => p.middleC);
  const called = track.name || `track ${held.tracks.indexOf(track) + 1}`;
  return (
    <tr className={`border-b border-line ${taken ? '' : 'text-faint'}`}>
      <td>
        <CheckBox label={`Take ${called}`} checked={taken} set={take} />
      </td>
      <td className="truncate py-1 pr-2">
        <span className="flex items-center gap-1.5">
          <FamilyGlyph track={track} map={false} />
          <span className="min-w-0 truncate" title={`${called}, ${instrumentText(track, false)}`}>
            {track.name || <i className="text-faint">{called}</i>}
            <span className="ml-1.5 text-[11.5px] text-faint">
              {instrumentText(track, false)}
              {perhaps(held, track)}
            </span>
          </span>
        </span>
      </td>
      <td className="num text-right">{track.channel ?? track.channels.length}</td>
      <td className="num pr-2 text-right">{track.notes.toLocaleString('en')}</td>
      <td className="num text-[12px] text-faint">{reachText(track, middleC)}</td>
      <td className="pr-3">
        <LandingStrip
          track={track}
          timing={held.timing}
          lands={lands}
          whole={Math.max(1, lands.ends, song.timing.endTick)}
          songEnds={song.timing.endTick}
        />
      </td>
      <td>
        <Choice
          label={`${called} becomes`}
          hidden
          className="w-[124px]"
          value={onto}
          options={ontoOptions}
          disabled={!taken}
          set={layOnto}
        />
      </td>
      <td>
        <ListenTo name={name} held={held} track={track.id} says={`Listen to ${called}`} />
      </td>
    </tr>
  );
}

/** From which key to which it reaches; without notes, how many controllers there are. */
const reachText = ({ pitch, controllers }: Held['tracks'][number], middleC: number): string =>
  pitch
    ? `${keyName(pitch.lowest, middleC)}–${keyName(pitch.highest, middleC)}`
    : `${controllers.reduce((n, c) => n + c.count, 0)} ctrl.`;

/** What is less sure than this is not said. */
const leastSure = 0.5;

/** What may play a part that has no name, or says no program. */
function perhaps({ guesses }: Held, { id, name, programs }: Held['tracks'][number]): string {
  const [best] = guesses?.find((g) => g.id === id)?.guesses ?? [];
  const told = name !== '' && programs.length > 0;
  return best && best.sure >= leastSure && !told ? `, perhaps ${best.name}` : '';
}

/** What is laid onto which track; '' is a new one. */
function laidOnto(
  onto: Readonly<Record<string, string>>,
  id: string,
  to: string,
): Readonly<Record<string, string>> {
  const { [id]: _, ...others } = onto;
  return to === '' ? others : { ...others, [id]: to };
}
