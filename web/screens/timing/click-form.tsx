import { Download } from 'lucide-react';
import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { notatedBeat } from '#core/timing/notated-beat.ts';
import { longestClick, type ClickFile } from '#core/timing/click-track.ts';
import { makeClick } from '../../api/click.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { saveFile } from '../../components/save-file.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

/** The click of the whole song as a WAV file. */
export function ClickForm({ song }: { song: SongView }) {
  const maps = useMaps(song);
  const [settings, setSettings] = useState(usual);
  const [state, setState] = useState<ClickState>('idle');
  const byThrees = song.timing.meters.some((m) => notatedBeat(m).name.startsWith('dotted'));
  const choice = <K extends 'rate' | 'bits' | 'parts' | 'countIn'>(
    name: K,
    label: string,
    values: readonly ClickFile[K][],
    say: (value: ClickFile[K]) => string = String,
  ) => (
    <div className="flex justify-end">
      <Choice
        label={label}
        value={settings[name]}
        options={asSaid(values, say)}
        set={(value) => setSettings({ ...settings, [name]: value })}
      />
    </div>
  );
  const save = async (): Promise<void> => {
    setState('busy');
    const made = await makeClick(song, maps, settings);
    if (typeof made === 'string') return setState(made);
    setState('idle');
    saveFile(`${song.title} click.wav`, new Blob([made], { type: 'audio/wav' }));
  };
  return (
    <section aria-label="Click as WAV" className="mt-5 space-y-1.5 text-[12.5px]">
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">Click as WAV</h2>
      {choice('rate', 'Samples a second', [44_100, 48_000], (n) => n.toLocaleString('en'))}
      {choice('bits', 'Bits', [16, 24])}
      {choice('parts', 'Clicks a beat', [1, 2, 3, 4])}
      {byThrees && (
        <div className="flex justify-end">
          <Choice
            label="In 6/8 and its like"
            value={String(settings.dotted)}
            options={[
              ['false', 'every eighth'],
              ['true', 'every dotted quarter'],
            ]}
            set={(dotted) => setSettings({ ...settings, dotted: dotted === 'true' })}
          />
        </div>
      )}
      {choice('countIn', 'Count-in', [0, 1, 2, 4], (n) =>
        n === 0 ? 'none' : n === 1 ? 'a bar' : `${n} bars`,
      )}
      <Button disabled={state === 'busy'} onClick={() => void save()}>
        <Download size={13} aria-hidden /> Save the click
      </Button>
      <WhyNot state={state} />
    </section>
  );
}

type ClickState = 'idle' | 'busy' | 'too long' | 'no length';

/** Why no click was made. */
const WhyNot = ({ state }: { state: ClickState }) => (
  <>
    {state === 'too long' && (
      <p className="text-ochre">
        The song is longer than {longestClick / 60} minutes; set its length first.
      </p>
    )}
    {state === 'no length' && (
      <p className="text-ochre">The song has no length yet; set one first.</p>
    )}
  </>
);

const usual: ClickFile = { rate: 48_000, bits: 24, parts: 1, dotted: false, countIn: 0 };
