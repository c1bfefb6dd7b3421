import { useEffect, useRef } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { Radios } from '../../fields/radios.tsx';
import { usePlaying } from '../../state/playing.ts';
import { useScope } from '../../state/scope.ts';
import type { Wanted } from '../../intake/bring-model.ts';

/** How several sources come in: each to its place, or one behind the other. */
export interface Layout {
  readonly way: 'each' | 'behind';
  /** Bars between them. */
  readonly gap: number;
  /** A track that all of them are laid onto. */
  readonly onto?: string;
}

export function Several({
  layout,
  set,
  forAll,
}: {
  layout: Layout;
  set: (layout: Layout) => void;
  /** What is chosen for the file that is shown is chosen for all. */
  forAll: () => void;
}) {
  return (
    <fieldset className="mb-3">
      <legend className="mb-1 font-semibold">Several</legend>
      <Radios
        label="Several"
        value={layout.way}
        set={(way) => set({ ...layout, way })}
        options={[
          { value: 'each', says: 'Each to its own place' },
          { value: 'behind', says: 'One behind the other' },
        ]}
      />
      {layout.way === 'behind' && (
        <label className="mt-1 flex items-center gap-2 pl-5">
          Bars between
          <input
            type="number"
            className={`${input} num w-[60px]`}
            min={0}
            max={999}
            value={layout.gap}
            onChange={(e) =>
              set({
                ...layout,
                gap: Math.max(0, Math.min(999, Math.round(Number(e.target.value)))),
              })
            }
          />
        </label>
      )}
      <Button
        className="mt-1.5"
        onClick={forAll}
        title="What comes in beside the notes, what of the map, and what is kept"
      >
        The choices below for all files
      </Button>
    </fieldset>
  );
}

/** Where a source begins in the song, and what is kept: its bars or its time. */
export function Place({
  song,
  wanted,
  fixed,
  set,
}: {
  song: SongView;
  wanted: Wanted;
  /** It lies behind another, whose end says where. */
  fixed: boolean;
  set: (wanted: Wanted) => void;
}) {
  const { at, keep } = wanted;
  const way = 'own' in at ? 'own' : 'bar' in at ? 'bar' : 'timecode';
  const bar = 'bar' in at ? at.bar : 1;
  useScopeAsPlace(wanted, set);
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Where</legend>
      {fixed ? (
        <p className="text-faint">At bar {bar}, behind the one before.</p>
      ) : (
        <>
          <Radios
            label="Where"
            value={way}
            set={(to) =>
              set({
                ...wanted,
                at:
                  to === 'own'
                    ? { own: true }
                    : to === 'bar'
                      ? { bar }
                      : { timecode: song.timing.startTimecode ?? '' },
              })
            }
            options={[
              { value: 'own', says: 'At its own bars' },
              ...(song.timing.startTimecode === undefined
                ? []
                : [{ value: 'timecode' as const, says: 'From a timecode on' }]),
              { value: 'bar', says: 'From a bar on, typed or pressed on the strip' },
            ]}
          />
          {way === 'bar' && (
            <div className="mt-1 flex items-center gap-2 pl-5">
              <label className="flex items-center gap-2">
                Bar
                <input
                  type="number"
                  className={`${input} num w-[76px]`}
                  min={1}
                  max={1_000_000}
                  value={bar}
                  onChange={(e) =>
                    set({
                      ...wanted,
                      at: {
                        bar: Math.max(
                          1,
                          Math.min(1_000_000, Math.round(Number(e.target.value)) || 1),
                        ),
                      },
                    })
                  }
                />
              </label>
              <PlayingBar song={song} set={(to) => set({ ...wanted, at: { bar: to } })} />
            </div>
          )}
          {'timecode' in at && (
            <label className="mt-1 flex items-center gap-2 pl-5">
              Timecode
              <input
                className={`${input} num w-[120px]`}
                value={at.timecode}
                maxLength={20}
                onChange={(e) => set({ ...wanted, at: { timecode: e.target.value } })}
              />
            </label>
          )}
        </>
      )}
      <div className="mt-2">
        <Choice
          label="It keeps"
          value={keep}
          options={[
            ['bars', 'its bars and beats'],
            ['seconds', 'its seconds, as it sounded'],
          ]}
          set={(to) => set({ ...wanted, keep: to })}
        />
      </div>
    </fieldset>
  );
}

/** What is pressed on the strip while this is open is the place. */
function useScopeAsPlace(wanted: Wanted, set: (wanted: Wanted) => void): void {
  const from = useScope((s) => s.bars?.from);
  const before = useRef(from);
  useEffect(() => {
    if (from === before.current) return;
    before.current = from;
    if (from !== undefined) set({ ...wanted, at: { bar: from } });
  });
}

function PlayingBar({ song, set }: { song: SongView; set: (bar: number) => void }) {
  const maps = useMaps(song);
  const seconds = usePlaying((s) => (s.song === song.id && s.seconds > 0 ? s.seconds : undefined));
  if (seconds === undefined) return null;
  const { bar } = positionAt(maps.meters, secondsToTicks(maps.tempo, seconds));
  return <Button onClick={() => set(bar)}>Where it plays: {bar}</Button>;
}
