import { useEffect, useRef } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { positionAt } from '#core/timing/meter-map.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { Choice, asSaid } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { Radios } from '../../fields/radios.tsx';
import { usePlaying } from '../../state/playing.ts';
import { usePressedBar } from '../../state/pressed.ts';
import type { Held, Wanted } from '../../intake/bring-model.ts';
import { SomeBars } from './some-bars.tsx';

interface Props {
  readonly song: SongView;
  readonly held: Held;
  readonly wanted: Wanted;
  /** It lies behind another, whose end says where. */
  readonly fixed: boolean;
  readonly set: (wanted: Wanted) => void;
}

/** Where a source begins in the song, and what is kept: its bars or its time. */
export function Place({ song, held, wanted, fixed, set }: Props) {
  const { at, keep } = wanted;
  usePressedAsPlace(song, wanted, set);
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Where</legend>
      {fixed ? (
        <p className="text-faint">At bar {'bar' in at ? at.bar : 1}, behind the one before.</p>
      ) : (
        <Where song={song} wanted={wanted} set={set} />
      )}
      <SomeBars
        all={held.timing.bars}
        bars={wanted.bars}
        set={(bars) => set({ ...wanted, bars })}
      />
      {wanted.bars && (
        <div className="mt-1 pl-5">
          <Choice
            label="Notes over an edge"
            value={wanted.edges}
            options={asSaid(['with their beginning', 'cut'] as const)}
            set={(edges) => set({ ...wanted, edges })}
          />
        </div>
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

/** At its own bars, at a timecode, or at a bar that is typed, pressed on the strip, or played. */
function Where({ song, wanted, set }: Pick<Props, 'song' | 'wanted' | 'set'>) {
  const { at } = wanted;
  const way = 'own' in at ? 'own' : 'bar' in at ? 'bar' : 'timecode';
  const bar = 'bar' in at ? at.bar : 1;
  const go = (to: typeof at): void => set({ ...wanted, at: to });
  return (
    <>
      <Radios
        label="Where"
        value={way}
        set={(to) =>
          go(
            to === 'own'
              ? { own: true }
              : to === 'bar'
                ? { bar }
                : { timecode: song.timing.startTimecode ?? '' },
          )
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
              max={lastBar}
              value={bar}
              onChange={(e) => go({ bar: barIn(e.target.value) })}
            />
          </label>
          <PlayingBar song={song} set={(to) => go({ bar: to })} />
        </div>
      )}
      {'timecode' in at && (
        <label className="mt-1 flex items-center gap-2 pl-5">
          Timecode
          <input
            className={`${input} num w-[120px]`}
            value={at.timecode}
            maxLength={20}
            onChange={(e) => go({ timecode: e.target.value })}
          />
        </label>
      )}
    </>
  );
}

/** What is pressed on the strip while this is open is the place. */
function usePressedAsPlace(song: SongView, wanted: Wanted, set: (wanted: Wanted) => void): void {
  const bar = usePressedBar(song);
  const before = useRef(bar);
  useEffect(() => {
    if (bar === before.current) return;
    before.current = bar;
    if (bar !== undefined) set({ ...wanted, at: { bar } });
  });
}

function PlayingBar({ song, set }: { song: SongView; set: (bar: number) => void }) {
  const maps = useMaps(song);
  const seconds = usePlaying((s) => (s.song === song.id && s.seconds > 0 ? s.seconds : undefined));
  if (seconds === undefined) return null;
  const { bar } = positionAt(maps.meters, secondsToTicks(maps.tempo, seconds));
  return <Button onClick={() => set(bar)}>Where it plays: {bar}</Button>;
}

const lastBar = 1_000_000;
const barIn = (typed: string): number =>
  Math.max(1, Math.min(lastBar, Math.round(Number(typed)) || 1));
