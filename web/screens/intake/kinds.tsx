import type { SongView } from '#contracts/songs.ts';
import type { MapKind } from '#core/operations/tracks/bring-in/settings.ts';
import { count } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';
import { Choice } from '../../fields/choice.tsx';
import { MusicChoice } from '../../intake/music-choice.tsx';
import { mapCounts, type Held, type Wanted } from '../../intake/bring-model.ts';

const takes = [
  ['controllers', 'controllers, bends, pressure'],
  ['mix', 'volume, pan, sends'],
  ['programs', 'programs and banks'],
  ['exclusive', 'system exclusive'],
  ['lyrics', 'lyrics'],
  ['texts', 'texts'],
] as const satisfies readonly (readonly [keyof Wanted['take'], string])[];

const words: Readonly<Record<MapKind, string>> = {
  tempos: 'tempo',
  meters: 'meter',
  keys: 'key',
  markers: 'marker',
  sections: 'section',
  timecode: 'timecode',
};

interface Props {
  readonly song: SongView;
  readonly held: Held;
  readonly wanted: Wanted;
  readonly set: (wanted: Wanted) => void;
}

/** What comes in beside the notes, and what of the map. */
export function Kinds(props: Props) {
  const { wanted, set } = props;
  const { take } = wanted;
  const laid = wanted.tracks.some((id) => wanted.onto[id]);
  return (
    <>
      {wanted.tracks.length > 0 && (
        <fieldset className="mt-3">
          <legend className="mb-1 font-semibold">With the notes</legend>
          <div className="space-y-0.5">
            {takes.map(([kind, says]) => (
              <Check
                key={kind}
                checked={take[kind]}
                set={(on) => set({ ...wanted, take: { ...take, [kind]: on } })}
              >
                {says}
              </Check>
            ))}
          </div>
          {laid && (
            <div className="mt-1.5">
              <Choice
                label="Onto tracks that are there"
                value={wanted.how}
                options={[
                  ['merge', 'beside what plays'],
                  ['replace', 'in its place'],
                  ['where empty', 'only where nothing plays'],
                ]}
                set={(how) => set({ ...wanted, how })}
              />
            </div>
          )}
        </fieldset>
      )}
      <MapOf {...props} />
    </>
  );
}

function MapOf({ held, song, wanted, set }: Props) {
  const counts = mapCounts(held);
  const here = mapCounts(song);
  const kinds = (Object.keys(words) as MapKind[]).filter((kind) => counts[kind] > 0);
  if (kinds.length === 0) return null;
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 font-semibold">Its map</legend>
      <div className="grid grid-cols-[1fr_auto] items-center gap-x-2 gap-y-1">
        {kinds.map((kind) => (
          <MapRow key={kind} says={count(counts[kind], words[kind])}>
            <Choice
              label={words[kind]}
              hidden
              className="w-[150px]"
              value={wanted.map[kind]}
              options={[
                ['none', 'stays there'],
                [
                  'replace',
                  here[kind] > 0 ? `for the ${here[kind].toLocaleString('en')} here` : 'comes in',
                ],
                ...(here[kind] > 0 ? [['add', 'is added'] as const] : []),
              ]}
              set={(way) => set({ ...wanted, map: { ...wanted.map, [kind]: way } })}
            />
          </MapRow>
        ))}
      </div>
      {song.notes > 0 && (
        <MusicChoice
          way={wanted}
          set={(way) => set({ ...wanted, ...way })}
          meters={wanted.map.meters !== 'none'}
          tempos={wanted.map.tempos !== 'none'}
        />
      )}
    </fieldset>
  );
}

const MapRow = ({ says, children }: { says: string; children: React.ReactNode }) => (
  <>
    <span>{says}</span>
    {children}
  </>
);
