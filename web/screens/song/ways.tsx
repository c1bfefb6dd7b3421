import { keyNow } from '../../keys/shown.ts';
import type { SongView } from '#contracts/songs.ts';
import { Check } from '../../fields/check.tsx';
import { input } from '../../fields/field.ts';
import { Radios } from '../../fields/radios.tsx';
import { Slider } from '../../fields/slider.tsx';
import { fastest, slowest, useHearing, type AtScopeEnd } from '../../state/hearing.ts';
import { useLights } from '../../state/lights.ts';
import { PortWays } from './port-ways.tsx';
import { Sounds } from './sounds.tsx';

/** How fast a song is heard, what comes round, what is counted along, with which sounds and where. */
export function Ways({ song }: { song: SongView }) {
  const { metronome, countIn, atEnd } = useHearing();
  const lights = useLights();
  return (
    <>
      <Speed />
      <fieldset>
        <legend className="mb-1">Where the chosen bars end</legend>
        <Radios<AtScopeEnd>
          label="Where the chosen bars end"
          value={atEnd}
          set={(to) => useHearing.setState({ atEnd: to })}
          className="flex gap-3"
          options={[
            { value: 'plays on', says: 'play on' },
            { value: 'comes round', says: `again (${keyNow('loop')})` },
            { value: 'stops', says: 'stop' },
          ]}
        />
      </fieldset>
      <div className="grid grid-cols-2 gap-x-2">
        <Check checked={metronome} set={(to) => useHearing.setState({ metronome: to })}>
          Beats
        </Check>
        <Check checked={countIn} set={(to) => useHearing.setState({ countIn: to })}>
          A bar counted in
        </Check>
        <Check checked={lights.shown} set={lights.toggle}>
          Lights ({keyNow('lights')})
        </Check>
      </div>
      <Sounds song={song} />
      <PortWays song={song} />
      <p className="border-t border-line pt-2 text-[12px] text-faint">
        P plays, Shift P goes back to where it began. On the sheet M silences a track, O has it
        heard alone. B: as it is, or as it would be. X silences everything. None of this changes the
        song.
      </p>
    </>
  );
}

function Speed() {
  const percent = useHearing((s) => s.percent);
  const set = (to: number): void =>
    useHearing.setState({ percent: Math.min(fastest, Math.max(slowest, Math.round(to))) });
  return (
    <div>
      <label className="flex items-center justify-between gap-2">
        Speed, in percent
        <input
          type="number"
          className={`${input} num w-[66px] text-right`}
          min={slowest}
          max={fastest}
          step={5}
          value={percent}
          onChange={(e) =>
            e.target.value !== '' && useHearing.setState({ percent: Number(e.target.value) })
          }
          onBlur={() => set(percent)}
        />
      </label>
      <Slider
        label="Speed, slider"
        least={slowest}
        most={fastest}
        step={5}
        value={percent}
        set={set}
      />
    </div>
  );
}
