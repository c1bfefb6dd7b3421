import { Check } from '../../fields/check.tsx';
import { input } from '../../fields/field.ts';
import { Slider } from '../../fields/slider.tsx';
import { fastest, slowest, useHearing } from '../../state/hearing.ts';

/** How fast a song is heard, what comes round, and what is counted along. */
export function Ways() {
  const { metronome, countIn, loops } = useHearing();
  return (
    <>
      <Speed />
      <Check
        checked={loops}
        set={(to) => useHearing.setState({ loops: to })}
        says="Choose bars on the strip; without any, nothing comes round."
      >
        The chosen bars again and again (L)
      </Check>
      <Check checked={metronome} set={(to) => useHearing.setState({ metronome: to })}>
        Beats are heard
      </Check>
      <Check checked={countIn} set={(to) => useHearing.setState({ countIn: to })}>
        A bar is counted in
      </Check>
      <p className="border-t border-line pt-2 text-[12px] text-faint">
        On the sheet M silences a track and O has it heard alone. None of this changes the song.
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
